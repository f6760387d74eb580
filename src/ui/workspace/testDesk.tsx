import { render } from '@testing-library/react';
import { useState, type ReactNode } from 'react';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { bookOf } from '@/core/book/book';
import type { Plan } from '@/core/document/document';
import { figuresOf } from '@/core/views/figures';
import { UnitsProvider } from '../frame/units';
import { WhyProvider } from '../frame/why';
import { FieldDoorsProvider, type FieldDoors } from './doors';
import { WorkspaceProvider } from './WorkspaceProvider';

/** A desk of its own has no server behind it: nothing of a test may knock. */
const NO_DOORS = {} as FieldDoors;

/** The plan as the last edit of a test left it. */
export const desk: { plan: Plan } = { plan: terraceShortWorked() };

function Desk({
  start,
  children,
  readOnly,
}: {
  start: Plan;
  children: (plan: Plan) => ReactNode;
  readOnly: boolean;
}) {
  const [plan, setPlan] = useState(start);
  const book = bookOf(plan.farm.library);
  return (
    <WorkspaceProvider
      value={{
        ...figuresOf(book, plan, true),
        plan,
        book,
        readOnly,
        replace: () => undefined,
        edit: (change) =>
          setPlan((p) => {
            desk.plan = change(p);
            return desk.plan;
          }),
      }}
    >
      <FieldDoorsProvider value={NO_DOORS}>{children(plan)}</FieldDoorsProvider>
    </WorkspaceProvider>
  );
}
/** A part of a station on a desk of its own: its edits change a plan, and the figures follow. */
export const showPart = (
  part: ReactNode | ((plan: Plan) => ReactNode),
  start: Plan = terraceShortWorked(),
  readOnly = false,
) => {
  desk.plan = start;
  return render(
    <UnitsProvider>
      <WhyProvider>
        <Desk start={start} readOnly={readOnly}>
          {(plan) => (typeof part === 'function' ? part(plan) : part)}
        </Desk>
      </WhyProvider>
    </UnitsProvider>,
  );
};
