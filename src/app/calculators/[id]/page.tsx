import Link from 'next/link';
import { notFound } from 'next/navigation';
import { z } from 'zod';
import { METHODS } from '@/core/methods/registry';
import { exampleOf } from '@/core/methods/workedExample';
import { runMethodAction } from '@/server/actions';
import { Calculator, type CalculatorField } from '@/ui/calculators/Calculator';

interface JsonSchema {
  type?: string | string[];
  enum?: string[];
  anyOf?: JsonSchema[];
  description?: string;
  properties?: Record<string, JsonSchema>;
  required?: string[];
}

/** A box for each plain input; lists and objects are typed as JSON. */
function fieldsOf(schema: JsonSchema, example: Record<string, unknown>): CalculatorField[] {
  return Object.entries(schema.properties ?? {}).map(([name, s]) => {
    const core = s.anyOf?.find((x) => x.type !== 'null') ?? s;
    const type = [core.type ?? []].flat().find((t) => t !== 'null');
    const kind = core.enum
      ? 'choice'
      : type === 'number' || type === 'boolean'
        ? type
        : type === 'string'
          ? 'text'
          : 'json';
    const value = example[name];
    return {
      name,
      kind,
      required: schema.required?.includes(name) ?? false,
      options: core.enum ?? (kind === 'boolean' ? ['true', 'false'] : []),
      note: core.description ?? s.description ?? '',
      initial:
        value === undefined || value === null
          ? ''
          : kind === 'json'
            ? JSON.stringify(value)
            : String(value),
    };
  });
}

export default async function CalculatorPage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const method = METHODS.find((m) => m.id === id);
  if (!method) notFound();
  const example = await exampleOf(id);
  return (
    <>
      <p>
        <Link href="/calculators">Calculators</Link>
      </p>
      <h1>{method.title}</h1>
      <p className="note mb-3">
        {method.id}, chapter {method.chapter}. It opens with a worked example
        {example?.working ? `: ${example.working}` : ''}
      </p>
      <Calculator
        id={id}
        fields={fieldsOf(
          z.toJSONSchema(method.input) as JsonSchema,
          (example?.input ?? {}) as Record<string, unknown>,
        )}
        run={runMethodAction}
      />
    </>
  );
}
