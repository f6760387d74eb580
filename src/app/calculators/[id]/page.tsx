import Link from 'next/link';
import { notFound } from 'next/navigation';
import { PRINTED } from '@/core/book/book';
import { describeFields } from '@/core/methods/describe';
import { METHODS } from '@/core/methods/registry';
import { exampleOf } from '@/core/methods/workedExample';
import { putInFieldAction, usesInFieldAction } from '@/server/actions';
import { Calculator } from '@/ui/calculators/Calculator';

/** What a link brings, or null where it brings nothing that can be read. */
function broughtBy(text: string | string[] | undefined): Record<string, unknown> | null {
  if (typeof text !== 'string' || text.length > 20_000) return null;
  try {
    const input: unknown = JSON.parse(text);
    return input !== null && typeof input === 'object' && !Array.isArray(input)
      ? (input as Record<string, unknown>)
      : null;
  } catch {
    return null;
  }
}

const DOORS = { uses: usesInFieldAction, put: putInFieldAction };

export default async function CalculatorPage({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { id } = await params;
  const method = METHODS.find((m) => m.id === id);
  if (!method) notFound();
  const example = await exampleOf(id);
  const brought = broughtBy((await searchParams).in);
  return (
    <>
      <p>
        <Link href="/calculators">Calculators</Link>
      </p>
      <h1>{method.title}</h1>
      <p className="note">
        {method.id}, chapter {method.chapter}.
      </p>
      <Calculator
        key={id}
        id={id}
        takes={describeFields(PRINTED, method.fields.takes)}
        gives={describeFields(PRINTED, method.fields.gives)}
        initial={brought}
        example={{
          input: (example?.input ?? {}) as Record<string, unknown>,
          working: example?.working ?? '',
        }}
        doors={DOORS}
      />
    </>
  );
}
