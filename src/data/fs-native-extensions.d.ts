/** The one call that is used of a package that ships no types. */
declare module 'fs-native-extensions' {
  /** Locks some bytes of an open file for this process; false where somebody else holds them. */
  export function tryLock(descriptor: number, offset: number, length: number): boolean;
}
