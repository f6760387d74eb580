import { clip } from '@/core/quantity/curve';

export interface RangeTroughProps {
  value: number;
  /** Lower and upper limit of what is sufficient. */
  low: number;
  high: number;
  /** Class in words; it stands beside the picture and in its name. */
  word: string;
  label: string;
  decide?: boolean;
}

const W = 150;
const DIP = [60, 110] as const;

/**
 * The line dips between the lower and the upper limit; the reading is a grain in the dip, or on the
 * left or right bank.
 */
export function RangeTrough({ value, low, high, word, label, decide = false }: RangeTroughProps) {
  const [a, b] = DIP;
  // Each bank is a log-free stretch of one range width, so that far-off readings stay at its end.
  const width = Math.max(high - low, 1e-9);
  const x =
    value < low
      ? a - 10 - clip((low - value) / Math.max(low, 1e-9), 0, 1) * (a - 18)
      : value > high
        ? b + 10 + clip((value - high) / (width * 2), 0, 1) * (W - b - 18)
        : a + 8 + ((value - low) / width) * (b - a - 16);
  const inDip = value >= low && value <= high;
  return (
    <svg
      viewBox={`0 0 ${W} 26`}
      width={W}
      height={26}
      role="img"
      aria-label={`${label}: ${word}`}
      className="inline-block align-middle"
    >
      <path
        d={`M0 12H${a - 8}C${a} 12 ${a} 22 ${a + 10} 22H${b - 10}C${b} 22 ${b} 12 ${b + 8} 12H${W}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      <circle
        cx={x}
        cy={inDip ? 17 : 7}
        r={4.5}
        fill={decide ? 'var(--hot)' : 'var(--ink)'}
        stroke="var(--paper)"
        strokeWidth={1}
      />
    </svg>
  );
}
