import type { Answer, RefusalDetail } from '@/core/quantity/refusal';

/** Sends the file and follows what the server says of its progress; the last line is the answer. */
export async function sendImport<T>(
  door: string,
  form: FormData,
  onProgress: (p: { done: number; of: number }) => void,
): Promise<Answer<T>> {
  const response = await fetch(door, { method: 'POST', body: form });
  if (!response.ok)
    return { ok: false, refusal: ((await response.json()) as { error: RefusalDetail }).error };
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  let answer: Answer<T> | null = null;
  const take = (line: string) => {
    if (line.trim() === '') return;
    const said = JSON.parse(line) as { progress: { done: number; of: number } } | Answer<T>;
    if ('progress' in said) onProgress(said.progress);
    else answer = said;
  };
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    text += part.value;
    const lines = text.split('\n');
    text = lines.pop() ?? '';
    lines.forEach(take);
  }
  take(text);
  if (!answer) throw new Error('no answer');
  return answer;
}
