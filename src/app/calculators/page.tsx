import Link from 'next/link';
import { DICTIONARY } from '@/core/methods/dictionary/dictionary';
import type { QuantityName } from '@/core/methods/fields';
import { METHODS } from '@/core/methods/registry';
import { CalculatorList } from '@/ui/calculators/CalculatorList';

export const metadata = { title: 'Calculators' };

export default function CalculatorsPage() {
  const entries = METHODS.map(({ id, title, group, fields }) => ({
    id,
    title,
    group,
    words: (Object.keys({ ...fields.takes, ...fields.gives }) as QuantityName[])
      .map((name) => DICTIONARY[name].label)
      .join(' '),
  }));
  return (
    <>
      <h1>Calculators</h1>
      <p className="note mb-3">
        Every calculation of the plan on its own, with its reasons. The same is to be had from the
        command line and from <code>POST /api/methods/ID</code>.
      </p>
      <p className="mb-3">
        <Link href="/claims">Claim checker</Link>{' '}
        <span className="note">
          any product sold for pH: its label against chemistry and the need
        </span>
      </p>
      <CalculatorList entries={entries} />
    </>
  );
}
