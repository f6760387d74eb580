'use client';

import type { Route } from 'next';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { AddFields, type Choice } from './AddFields';
import { FieldNames, type NamedField } from './FieldNames';
import { FieldsFromFile, type FarmOutlines } from './FieldsFromFile';
import type { Answer } from '@/core/quantity/refusal';

export interface FarmFieldsProps {
  farmId: string;
  fields: readonly NamedField[];
  soils: readonly Choice[];
  readOnly: boolean;
  create: (raw: unknown) => Promise<Answer<string[]>>;
  readOutlines: (form: FormData) => Promise<Answer<FarmOutlines>>;
  bringOutlines: (picks: unknown) => Promise<Answer<{ changed: number; made: number }>>;
  rename: (id: string, name: string) => Promise<Answer<void>>;
  remove: (id: string) => Promise<Answer<string>>;
  bringBack: (removedId: string) => Promise<Answer<string>>;
}

/** The fields of a farm: as rows, out of a file, or one by one; renamed and taken away. */
export function FarmFields(p: FarmFieldsProps) {
  const router = useRouter();
  const renew = () => router.refresh();
  return (
    <>
      <FieldNames
        fields={p.fields}
        readOnly={p.readOnly}
        rename={p.rename}
        remove={p.remove}
        bringBack={p.bringBack}
      />
      {!p.readOnly && (
        <>
          <AddFields farmId={p.farmId} soils={p.soils} create={p.create} onAdded={renew} />
          <FieldsFromFile
            fields={p.fields}
            soils={p.soils}
            read={p.readOutlines}
            bring={p.bringOutlines}
            onBrought={renew}
          />
        </>
      )}
      {p.fields.length > 0 && (
        <p>
          Next: <Link href="/samples">bring in the first laboratory report</Link>, or open a field
          and type it at Ground. <Link href={'/' as Route}>Today</Link> shows all fields.
        </p>
      )}
    </>
  );
}
