import type { ReactNode } from 'react';

// Small drawings of what a leaf can look like, beside the question that asks for it.

const BLADE = 'M40 92C8 74 10 28 40 6C70 28 72 74 40 92Z';
const GREEN = 'var(--demand)';
const PALE = 'var(--dose)';
const DEAD = 'var(--manure)';
const VEINS = [24, 38, 52, 66].map(
  (y) =>
    `M40 ${y + 8}L${40 - (y < 30 ? 12 : 20)} ${y - 2}M40 ${y + 8}L${40 + (y < 30 ? 12 : 20)} ${y - 2}`,
);
const Midrib = ({ colour, width = 1.6 }: { colour: string; width?: number }) => (
  <path d="M40 8V98" stroke={colour} strokeWidth={width} />
);
const Veins = ({ colour, width = 1.2 }: { colour: string; width?: number }) => (
  <path d={VEINS.join('')} stroke={colour} strokeWidth={width} />
);
/** The blade in one colour, with what lies on it cut to its shape. */
const Leaf = ({ fill, children }: { fill: string; children?: ReactNode }) => (
  <>
    <path d={BLADE} fill={fill} stroke={GREEN} strokeWidth={1.6} />
    {children}
  </>
);

/** What each pattern of a leaf looks like; features without a drawing have none. */
const DRAW: Readonly<Record<string, () => ReactNode>> = {
  f_uniform_yellow: () => (
    <Leaf fill={PALE}>
      <Midrib colour="var(--legume)" />
      <Veins colour="var(--legume)" width={0.8} />
    </Leaf>
  ),
  f_iv_sharp: () => (
    <Leaf fill={PALE}>
      <Midrib colour={GREEN} width={2.4} />
      <Veins colour={GREEN} width={1.8} />
    </Leaf>
  ),
  f_iv_diffuse: () => (
    <Leaf fill={PALE}>
      <Midrib colour={GREEN} width={9} />
      <Veins colour={GREEN} width={6} />
    </Leaf>
  ),
  f_tip_v: () => (
    <Leaf fill={GREEN}>
      <path d="M40 6C24 18 16 34 14 46L40 84L66 46C64 34 56 18 40 6Z" fill={PALE} />
      <Midrib colour="var(--legume)" />
    </Leaf>
  ),
  f_margin_scorch: () => (
    <>
      <path d={BLADE} fill={DEAD} stroke={GREEN} strokeWidth={1.6} />
      <path d="M40 84C18 70 20 34 40 20C60 34 62 70 40 84Z" fill={GREEN} />
      <Midrib colour="var(--paper)" />
    </>
  ),
  f_specks: () => (
    <Leaf fill={PALE}>
      <Midrib colour={GREEN} />
      {[
        [30, 34],
        [50, 40],
        [28, 54],
        [52, 60],
        [36, 70],
        [46, 26],
      ].map(([x, y]) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r={3} fill={DEAD} />
      ))}
    </Leaf>
  ),
  f_white_band: () => (
    <Leaf fill={GREEN}>
      <path d="M32 16C26 40 26 66 34 84H46C54 66 54 40 48 16Z" fill="var(--paper)" />
      <Midrib colour={GREEN} width={3} />
    </Leaf>
  ),
  f_purple_red: () => (
    <Leaf fill="var(--p)">
      <Midrib colour="var(--paper)" />
      <Veins colour="var(--paper)" width={0.8} />
    </Leaf>
  ),
  f_mosaic: () => (
    <Leaf fill={GREEN}>
      <path
        d="M28 30l8 6-4 10-9-4ZM48 36l10 4-2 10-10-2ZM32 58l10-2 4 10-10 4ZM50 64l8-4-2 12-8 2ZM38 18l8 2-2 8-8-2Z"
        fill={PALE}
      />
    </Leaf>
  ),
  f_bleached_white: () => (
    <Leaf fill="var(--paper)">
      <Midrib colour="var(--legume)" />
    </Leaf>
  ),
};

/** The drawing of a feature; null where words do better. The question beside it is its text. */
export function LeafPattern({ featureId }: { featureId: string }) {
  const Drawn = DRAW[featureId];
  return Drawn ? (
    <svg viewBox="0 0 80 100" width={32} height={40} aria-hidden className="shrink-0">
      <Drawn />
    </svg>
  ) : null;
}

const ZONES = [
  { featureId: 'f_young_first', label: 'the youngest leaves', from: 8, to: 66 },
  { featureId: 'f_middle_first', label: 'the middle leaves', from: 66, to: 128 },
  { featureId: 'f_old_first', label: 'the oldest leaves', from: 128, to: 200 },
  { featureId: 'f_bad_roots', label: 'the roots', from: 200, to: 250 },
] as const;
/** A plant on which is picked where it began: each part answers its question with yes, or not at all. */
export function PlantZones({
  answers,
  disabled,
  onPick,
}: {
  answers: Readonly<Record<string, boolean | null>>;
  disabled: boolean;
  onPick: (featureId: string, yes: boolean | null) => void;
}) {
  return (
    <div className="mb-3 flex gap-3" role="group" aria-label="Where on the plant it began">
      <svg viewBox="0 0 120 250" width={96} height={200} aria-hidden className="shrink-0">
        {ZONES.map((z) =>
          answers[z.featureId] === true ? (
            <rect
              key={z.featureId}
              x={0}
              y={z.from}
              width={120}
              height={z.to - z.from}
              fill="var(--dose)"
              opacity={0.8}
            />
          ) : null,
        )}
        <path d="M60 204C58 150 62 80 60 18" stroke="var(--legume)" strokeWidth={3.5} fill="none" />
        {[
          [180, 1, 40],
          [156, -1, 40],
          [118, 1, 34],
          [96, -1, 34],
          [54, 1, 24],
          [38, -1, 20],
          [22, 1, 14],
        ].map(([y = 0, side = 1, size = 0]) => (
          <path
            key={y}
            d={`M60 ${y}C${60 + side * size * 0.5} ${y - size * 0.8} ${60 + side * size} ${y - size * 0.7} ${60 + side * size * 1.2} ${y - size * 0.1}C${60 + side * size * 0.8} ${y + size * 0.1} ${60 + side * size * 0.4} ${y + size * 0.1} 60 ${y}Z`}
            fill="var(--paper)"
            stroke={GREEN}
            strokeWidth={1.6}
          />
        ))}
        <path d="M6 204H114" stroke="var(--legume)" strokeDasharray="2 5" strokeWidth={1.4} />
        <path
          d="M60 204V244M60 212L34 236M60 212L86 236M60 224L46 246M60 224L74 246"
          stroke="var(--legume)"
          strokeWidth={2}
          fill="none"
        />
      </svg>
      <div className="flex flex-col justify-between py-1">
        {ZONES.map((z) => (
          <button
            key={z.featureId}
            type="button"
            className="button"
            disabled={disabled}
            aria-pressed={answers[z.featureId] === true}
            onClick={() => onPick(z.featureId, answers[z.featureId] === true ? null : true)}
          >
            {z.label}
          </button>
        ))}
      </div>
    </div>
  );
}
