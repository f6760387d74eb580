'use client';

import { Dialog } from 'radix-ui';

const KEYS: readonly [string, string][] = [
  ['Ctrl or Cmd K', 'find a field, station or page'],
  ['1 to 6', 'stations of the field: Ground, Crop, Budget, Supply, Season, plan sheet'],
  ['[ and ]', 'field before, field after'],
  ['w', 'why: the reasons of the figure in focus'],
  ['u', 'change between kg/ha and lb/ac'],
  ['Ctrl or Cmd Z', 'undo the last edit of the plan'],
  ['Esc', 'close'],
  ['?', 'this list'],
];

export function Help({ onClose }: { onClose: () => void }) {
  return (
    <Dialog.Root
      open
      onOpenChange={(o) => {
        if (!o) onClose();
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-black/30" />
        <Dialog.Content className="fixed top-[15vh] left-1/2 z-50 w-[min(30rem,94vw)] -translate-x-1/2 border-2 border-ink bg-raised p-4">
          <Dialog.Title asChild>
            <h2>Keys</h2>
          </Dialog.Title>
          <Dialog.Description className="note mb-2">They work outside of boxes.</Dialog.Description>
          <table className="ruled">
            <tbody>
              {KEYS.map(([k, what]) => (
                <tr key={k}>
                  <th scope="row" className="whitespace-nowrap">
                    <kbd>{k}</kbd>
                  </th>
                  <td>{what}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <Dialog.Close className="button mt-3">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
