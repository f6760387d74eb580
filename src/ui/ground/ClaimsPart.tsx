'use client';

import type { ClaimInput } from '@/core/ground/claim';
import { useWorkspace } from '../workspace/context';
import { ClaimChecker, type ClaimCheckerProps, type KeptClaim } from './ClaimChecker';

type Send = Awaited<ReturnType<NonNullable<ClaimCheckerProps['drop']>>>;
export interface ClaimsPartProps {
  claims: KeptClaim[];
  keep: (product: string, input: ClaimInput) => Promise<Send>;
  drop: (id: string) => Promise<Send>;
}

/** The claim checker against this field’s own need; what was checked stays with the field. */
export function ClaimsPart({ claims, keep, drop }: ClaimsPartProps) {
  const { a, readOnly, parts } = useWorkspace();
  const lime = parts?.lime ?? null;
  const need =
    lime && lime.requirement.valueTHa !== null && a.ground.planning
      ? {
          lr: Number(lime.requirement.valueTHa.toFixed(2)),
          gap: Number(Math.max(0, lime.target.ph - a.ground.planning.ph).toFixed(2)),
        }
      : null;
  return (
    <ClaimChecker
      key={need ? `${need.lr}|${need.gap}` : 'none'}
      need={need}
      kept={claims}
      keep={readOnly ? null : keep}
      drop={readOnly ? null : drop}
    />
  );
}
