import { useId, type ReactNode } from 'react';
import type { SamplingProtocol } from '@/core/book/leafStandards';

// Line drawings of plants with the organ that is taken filled in. Drawn here for this purpose.

type Form = SamplingProtocol['plantForm'];
type Organ = SamplingProtocol['organ'];

const GREEN = 'var(--demand)';
const EARTH = 'var(--legume)';
const FORM: Readonly<Record<Form, string>> = {
  grass: 'a grass or cereal plant',
  broadleaf: 'a broad-leaved plant with leaves of three leaflets',
  rosette: 'a rosette plant with its root in the ground',
  cane: 'a bush with an old and a new cane',
  shoot: 'a shoot of this year on an older branch',
  fruit: 'a fruit, stalk above and eye below',
};
const ORGAN: Readonly<Record<Organ, string>> = {
  whole: 'the whole of it',
  young_mature: 'the youngest leaf that is fully grown',
  ear_leaf: 'the leaf at the uppermost ear',
  top_leaf: 'the uppermost leaf',
  top_third: 'the upper third',
  petiole: 'the stalk of the youngest leaf that is fully grown',
  wrapper: 'the leaf that wraps the head',
  midshoot: 'leaves from the middle of this year’s shoot',
  opposite_fruit: 'the leaf opposite the fruit, and its stalk',
  peel: 'a strip of peel round the eye third',
};
/** What a drawing shows, for those who do not see it. */
export const drawnInWords = (form: Form, organ: Organ): string =>
  `Drawing of ${FORM[form]}; filled in: ${ORGAN[organ]}.`;

/** A leaf blade from its base, leaning by so many degrees from upright. */
function Blade({
  x,
  y,
  lean,
  length,
  width = length * 0.36,
  taken = false,
  stalk = 0,
  stalkTaken = false,
}: {
  x: number;
  y: number;
  lean: number;
  length: number;
  width?: number;
  taken?: boolean;
  stalk?: number;
  stalkTaken?: boolean;
}) {
  const tip = -stalk - length;
  const middle = -stalk - length * 0.45;
  return (
    <g transform={`translate(${x} ${y}) rotate(${lean})`}>
      {stalk > 0 && (
        <path
          d={`M0 0V${-stalk}`}
          stroke={GREEN}
          strokeWidth={stalkTaken ? 5 : 1.6}
          strokeLinecap="round"
        />
      )}
      <path
        d={`M0 ${-stalk}C${width} ${middle} ${width * 0.7} ${tip * 0.86} 0 ${tip}C${-width * 0.7} ${tip * 0.86} ${-width} ${middle} 0 ${-stalk}Z`}
        fill={taken ? GREEN : 'var(--paper)'}
        stroke={GREEN}
        strokeWidth={1.4}
      />
      <path
        d={`M0 ${-stalk}V${tip + 6}`}
        stroke={taken ? 'var(--paper)' : GREEN}
        strokeWidth={0.8}
      />
    </g>
  );
}
/** A leaf of three leaflets on its stalk. */
function Trifoliate({
  x,
  y,
  lean,
  size,
  taken,
  stalkTaken,
}: {
  x: number;
  y: number;
  lean: number;
  size: number;
  taken: boolean;
  stalkTaken: boolean;
}) {
  const stalk = size * 0.8;
  return (
    <g transform={`translate(${x} ${y}) rotate(${lean})`}>
      <path
        d={`M0 0V${-stalk}`}
        stroke={GREEN}
        strokeWidth={stalkTaken ? 5 : 1.6}
        strokeLinecap="round"
      />
      {[-62, 0, 62].map((a) => (
        <Blade key={a} x={0} y={-stalk} lean={a} length={size} width={size * 0.4} taken={taken} />
      ))}
    </g>
  );
}
const Line = ({ d, width = 3 }: { d: string; width?: number }) => (
  <path d={d} fill="none" stroke={EARTH} strokeWidth={width} strokeLinecap="round" />
);
/** Where a plant is cut, and what above it is taken. */
const Cut = ({ y, says }: { y: number; says: string }) => (
  <g>
    <path d={`M20 ${y}H200`} stroke="var(--ink)" strokeWidth={1.2} strokeDasharray="5 4" />
    <text x={200} y={y - 5} textAnchor="end" className="fill-[var(--ink)] text-[12px]">
      {says}
    </text>
  </g>
);
const Ground = ({ y }: { y: number }) => (
  <path d={`M10 ${y}H210`} stroke={EARTH} strokeWidth={1.4} strokeDasharray="2 5" />
);

/** A blade of grass, arching to one side. */
function GrassLeaf({ y, side, taken }: { y: number; side: 1 | -1; taken: boolean }) {
  const x = (dx: number) => 110 + side * dx;
  return (
    <path
      d={`M110 ${y}C${x(18)} ${y - 46} ${x(52)} ${y - 52} ${x(84)} ${y - 14}C${x(50)} ${y - 38} ${x(20)} ${y - 24} 110 ${y + 10}Z`}
      fill={taken ? GREEN : 'var(--paper)'}
      stroke={GREEN}
      strokeWidth={1.4}
    />
  );
}
const GRASS_NODES = [196, 168, 140, 112, 84] as const;
function Grass({ organ }: { organ: Organ }) {
  const whole = organ === 'whole';
  const at = { top_leaf: 84, young_mature: 112, ear_leaf: 112 }[organ as 'top_leaf'];
  return (
    <>
      <Ground y={226} />
      <Line d="M110 226V60" width={4} />
      {GRASS_NODES.map((y, k) => (
        <GrassLeaf key={y} y={y} side={k % 2 === 0 ? 1 : -1} taken={whole || y === at} />
      ))}
      {organ === 'ear_leaf' ? (
        <ellipse
          cx={120}
          cy={104}
          rx={9}
          ry={20}
          fill="var(--paper)"
          stroke={EARTH}
          strokeWidth={1.6}
        />
      ) : (
        <path
          d="M110 66C100 48 104 34 110 22C116 34 120 48 110 66Z"
          fill="var(--paper)"
          stroke={GREEN}
          strokeWidth={1.4}
        />
      )}
      {whole && <Cut y={218} says="cut here" />}
    </>
  );
}
const BROAD = [
  { y: 196, lean: 66, size: 30 },
  { y: 166, lean: -64, size: 30 },
  { y: 134, lean: 58, size: 28 },
  { y: 106, lean: -54, size: 26 },
  { y: 82, lean: 44, size: 18 },
  { y: 70, lean: -30, size: 12 },
] as const;
/** Third from the tip: the youngest that is fully grown. */
const BROAD_MATURE = 3;
function Broadleaf({ organ }: { organ: Organ }) {
  const taken = (k: number) =>
    organ === 'whole' ||
    (organ === 'young_mature' && k === BROAD_MATURE) ||
    (organ === 'top_third' && k >= BROAD_MATURE);
  return (
    <>
      <Ground y={226} />
      <Line d="M110 226C108 180 112 120 110 66" width={3.5} />
      {BROAD.map((l, k) => (
        <Trifoliate
          key={l.y}
          x={110}
          y={l.y}
          lean={l.lean}
          size={l.size}
          taken={taken(k)}
          stalkTaken={organ === 'petiole' && k === BROAD_MATURE}
        />
      ))}
      {organ === 'whole' && <Cut y={218} says="cut here" />}
      {organ === 'top_third' && <Cut y={122} says="cut here" />}
    </>
  );
}
const ROSETTE = [
  { lean: -78, length: 66, stalk: 34 },
  { lean: 78, length: 66, stalk: 34 },
  { lean: -50, length: 64, stalk: 34 },
  { lean: 48, length: 62, stalk: 34 },
  { lean: -20, length: 46, stalk: 24 },
  { lean: 22, length: 44, stalk: 24 },
  { lean: 0, length: 26, stalk: 10 },
] as const;
const ROSETTE_MATURE = 3;
function Rosette({ organ }: { organ: Organ }) {
  const at = organ === 'wrapper' ? 4 : ROSETTE_MATURE;
  return (
    <>
      <Ground y={176} />
      <path
        d="M84 176C82 204 100 222 110 236C120 222 138 204 136 176Z"
        fill="var(--paper)"
        stroke={EARTH}
        strokeWidth={1.8}
      />
      {ROSETTE.map((l, k) => (
        <Blade
          key={l.lean}
          x={110}
          y={174}
          lean={l.lean}
          length={l.length}
          stalk={l.stalk}
          taken={k === at && organ !== 'petiole'}
          stalkTaken={k === at && organ === 'petiole'}
        />
      ))}
      {organ === 'wrapper' && (
        <circle
          cx={110}
          cy={146}
          r={22}
          fill="none"
          stroke={EARTH}
          strokeDasharray="3 4"
          strokeWidth={1.4}
        />
      )}
    </>
  );
}
function Cane() {
  return (
    <>
      <Ground y={226} />
      <Line d="M92 226C84 170 74 110 66 62" width={5} />
      <Line d="M128 226C134 170 142 110 146 44" />
      {[84, 118, 152].map((y, k) => (
        <g key={y}>
          <Blade x={70 + k * 6} y={y} lean={-62} length={26} />
          <circle
            cx={80 + k * 6}
            cy={y + 6}
            r={5}
            fill="var(--paper)"
            stroke={EARTH}
            strokeWidth={1.4}
          />
        </g>
      ))}
      {[
        [145, 56, 30],
        [144, 74, -40],
        [142, 96, 52],
        [140, 116, -52],
        [138, 136, 56],
        [136, 158, -56],
        [133, 182, 60],
      ].map(([x = 0, y = 0, lean = 0], k) => (
        <Blade key={y} x={x} y={y} lean={lean} length={30} taken={k >= 2 && k <= 4} />
      ))}
      <text x={58} y={52} textAnchor="middle" className="fill-[var(--ink)] text-[12px]">
        old, bears
      </text>
      <text x={160} y={18} textAnchor="middle" className="fill-[var(--ink)] text-[12px]">
        this year’s
      </text>
    </>
  );
}
function Shoot({ organ }: { organ: Organ }) {
  const taken = (k: number) =>
    organ === 'midshoot'
      ? k >= 3 && k <= 6
      : organ === 'opposite_fruit'
        ? k === 1
        : organ === 'young_mature'
          ? k === 7
          : organ === 'whole';
  return (
    <>
      <Line d="M40 236C46 214 54 200 66 190" width={7} />
      <Line d="M66 190L176 44" width={3.5} />
      {Array.from({ length: 10 }, (_, k) => {
        const t = (k + 1) / 11;
        const side = k % 2 === 0 ? 1 : -1;
        return (
          <Blade
            key={k}
            x={66 + 110 * t}
            y={190 - 146 * t}
            lean={36 + side * 64}
            length={k === 0 || k === 9 ? 26 : 36}
            stalk={6}
            taken={taken(k)}
            stalkTaken={organ === 'opposite_fruit' && taken(k)}
          />
        );
      })}
      {organ === 'opposite_fruit' ? (
        [0, 1, 2].map((k) => (
          <circle
            key={k}
            cx={98 + k * 9}
            cy={190 + (k % 2) * 12}
            r={8}
            fill="var(--paper)"
            stroke={EARTH}
            strokeWidth={1.6}
          />
        ))
      ) : (
        <>
          <path d="M66 190L74 212" stroke={EARTH} strokeWidth={2} />
          <circle cx={76} cy={222} r={12} fill="var(--paper)" stroke={EARTH} strokeWidth={1.6} />
        </>
      )}
    </>
  );
}
const FRUIT =
  'M110 66C80 46 34 62 34 128C34 184 76 220 110 210C144 220 186 184 186 128C186 62 140 46 110 66Z';
function Fruit({ organ }: { organ: Organ }) {
  const inside = useId();
  return (
    <>
      <clipPath id={inside}>
        <path d={FRUIT} />
      </clipPath>
      <Line d="M110 66C112 50 118 40 128 32" width={3.5} />
      <path
        d={FRUIT}
        fill={organ === 'whole' ? GREEN : 'var(--paper)'}
        fillOpacity={organ === 'whole' ? 0.35 : 1}
        stroke={GREEN}
        strokeWidth={1.8}
      />
      {organ === 'peel' && (
        <path
          d="M20 158C76 186 144 186 200 158V174C144 202 76 202 20 174Z"
          fill={GREEN}
          clipPath={`url(#${inside})`}
        />
      )}
      <path d="M102 208L110 200L118 208" fill="none" stroke={EARTH} strokeWidth={2} />
      <text x={110} y={234} textAnchor="middle" className="fill-[var(--ink)] text-[12px]">
        eye
      </text>
    </>
  );
}

const DRAW: Readonly<Record<Form, (p: { organ: Organ }) => ReactNode>> = {
  grass: Grass,
  broadleaf: Broadleaf,
  rosette: Rosette,
  cane: Cane,
  shoot: Shoot,
  fruit: Fruit,
};

/** A plant with the organ that is taken filled in. */
export function PlantDrawing({
  form,
  organ,
  size = 240,
}: {
  form: Form;
  organ: Organ;
  size?: number;
}) {
  const id = useId();
  const Drawn = DRAW[form];
  return (
    <svg
      viewBox="0 0 220 244"
      role="img"
      aria-labelledby={id}
      className="block max-w-full"
      width={size}
      height={(size * 244) / 220}
    >
      <title id={id}>{drawnInWords(form, organ)}</title>
      <Drawn organ={organ} />
    </svg>
  );
}
