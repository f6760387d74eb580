import { Trash2 } from 'lucide-react';

/** Takes one line out of a list; its label says which. */
export function RemoveButton({
  label,
  onClick,
  disabled,
}: {
  label: string;
  onClick: () => void;
  disabled?: boolean;
}) {
  return (
    <button
      type="button"
      className="button px-2"
      aria-label={label}
      disabled={disabled}
      onClick={onClick}
    >
      <Trash2 size={14} aria-hidden />
    </button>
  );
}

/** Heading over a column of such buttons. */
export const RemoveHead = () => (
  <th>
    <span className="sr-only">Remove</span>
  </th>
);
