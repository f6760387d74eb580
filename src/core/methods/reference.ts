import { PRINTED } from '../book/book';
import { rangeText } from '../quantity/range';
import { aboutAlternatives, aboutField } from './about';
import { describeFields, type FieldDescription } from './describe';
import { METHODS, type Method } from './registry';
import type { WorkedExample } from './workedExample';

const moduleOf = (m: Method): string => m.id.split('.')[0] ?? '';
/** Parts of the registry, by the first word of their ids. */
export const MODULES: readonly string[] = [...new Set(METHODS.map(moduleOf))];

const cell = (text: string): string => text.replaceAll('|', String.raw`\|`);
/** What a field takes, in a few words. */
export function takenAs({ quantity: q, many }: FieldDescription): string {
  const one =
    q.kind === 'number' || q.kind === 'figures'
      ? `${rangeText(q)}${q.kind === 'figures' ? ', by name' : ''}`
      : q.kind === 'choice'
        ? Object.keys(q.choices).join(', ')
        : {
            yes: 'true, false',
            key: 'key',
            text: 'text',
            date: 'YYYY-MM-DD',
            flags: 'true, false, by name',
            texts: 'text, by name',
            rows: many ? 'rows' : 'group',
          }[q.kind];
  return many && q.kind !== 'rows' ? `list: ${one}` : one;
}
type Side = 'takes' | 'gives';
const rowsOf = (fields: readonly FieldDescription[], side: Side, path = ''): string[] =>
  fields.flatMap((f) => [
    `| \`${path}${f.name}\` | ${cell(takenAs(f))} | ${cell(`${f.quantity.label}: ${aboutField(f, side)}`)} |`,
    ...(f.of ? rowsOf(f.of, side, `${path}${f.name}.`) : []),
  ]);
const table = (title: string, fields: readonly FieldDescription[], side: Side): string[] => [
  `| ${title} | As | What it is |`,
  '|---|---|---|',
  ...rowsOf(fields, side),
  '',
];

/** The reference page of one part of the registry, made from its entries. */
export function referencePage(module: string, examples: readonly WorkedExample[]): string {
  const methods = METHODS.filter((m) => moduleOf(m) === module);
  return [
    `# Reference: ${module}`,
    '',
    `Every method of this part with its fields. Written by \`npm run --silent furrow -- reference ${module}\`.`,
    '',
    ...methods.flatMap((m) => {
      const example = examples.find((e) => e.method === m.id && !('refuse' in e.expected));
      return [
        `## ${m.title}`,
        `\`${m.id}\`, chapter ${m.chapter}`,
        '',
        ...table('Takes', describeFields(PRINTED, m.fields.takes), 'takes'),
        ...aboutAlternatives(m).flatMap((text) => [text, '']),
        ...table('Gives', describeFields(PRINTED, m.fields.gives), 'gives'),
        ...(example ? ['```json', JSON.stringify(example.input), '```', ''] : []),
      ];
    }),
  ].join('\n');
}
