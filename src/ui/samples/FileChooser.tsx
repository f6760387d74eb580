'use client';

import { useId } from 'react';
import { ChoiceBox } from '../figure/fields';

export interface ChosenFile {
  farmId: string;
  laboratory: string;
  file: File | null;
}

/** Which farm, whose laboratory and which file: the same for every kind of results. */
export function FileChooser({
  labels,
  accept,
  farms,
  laboratories,
  chosen,
  set,
  onFile,
  onLook,
  disabled,
  ready,
}: {
  labels: { farm: string; laboratory: string; file: string; look: string };
  accept: string;
  farms: { id: string; name: string }[];
  laboratories: Record<string, string[]>;
  chosen: ChosenFile;
  set: (part: Partial<ChosenFile>) => void;
  /** Another file: what was seen of the last one goes. */
  onFile: () => void;
  onLook: () => void;
  disabled: boolean;
  ready: boolean;
}) {
  const listId = useId();
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <ChoiceBox
        label={labels.farm}
        disabled={disabled}
        value={chosen.farmId}
        options={farms.map((f) => ({ value: f.id, label: f.name }))}
        onValue={(v) => v && set({ farmId: v })}
      />
      <label className="inline-flex items-baseline gap-1.5">
        {labels.laboratory}
        <input
          className="box"
          list={listId}
          disabled={disabled}
          value={chosen.laboratory}
          maxLength={80}
          onChange={(e) => set({ laboratory: e.target.value })}
        />
      </label>
      <datalist id={listId}>
        {(laboratories[chosen.farmId] ?? []).map((l) => (
          <option key={l} value={l} />
        ))}
      </datalist>
      <label className="inline-flex items-baseline gap-1.5">
        {labels.file}
        <input
          type="file"
          accept={accept}
          className="box"
          disabled={disabled}
          onChange={(e) => {
            set({ file: e.target.files?.[0] ?? null });
            onFile();
          }}
        />
      </label>
      <button type="button" className="button" disabled={disabled || !ready} onClick={onLook}>
        {labels.look}
      </button>
    </div>
  );
}
/** What of it goes with every question to the server. */
export function formOf({ farmId, laboratory, file }: ChosenFile, answers: unknown): FormData {
  const form = new FormData();
  if (file) form.set('file', file);
  form.set('farmId', farmId);
  form.set('laboratory', laboratory);
  form.set('fileName', file?.name ?? '');
  form.set('answers', JSON.stringify(answers));
  return form;
}
