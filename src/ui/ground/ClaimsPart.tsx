'use client';

import { useAssessed, useEdit, useWorkspace } from '../workspace/context';
import { useDoors } from '../workspace/doors';
import { ClaimChecker, type KeptClaim } from './ClaimChecker';

export interface ClaimsPartProps {
  claims: KeptClaim[];
}

/** The claim checker against this field’s own need; what was checked stays with the field. */
export function ClaimsPart({ claims }: ClaimsPartProps) {
  const { keepClaim, dropClaim } = useDoors();
  const a = useAssessed('ground');
  const { readOnly } = useEdit();
  const parts = useWorkspace((w) => w.parts);
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
      keep={readOnly ? null : keepClaim}
      drop={readOnly ? null : dropClaim}
    />
  );
}
