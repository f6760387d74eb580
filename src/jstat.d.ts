declare module 'jstat' {
  const jStat: { normal: { cdf(x: number, mean: number, sd: number): number } };
  export default jStat;
}
