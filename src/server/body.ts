/**
 * The text of a request, measured as it comes in; null once it is larger than allowed, whatever its
 * headers promise.
 */
export async function textWithin(request: Request, most: number): Promise<string | null> {
  if (Number(request.headers.get('content-length') ?? 0) > most) return null;
  const reader = request.body?.getReader();
  if (!reader) return '';
  const parts: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return new TextDecoder().decode(await new Blob(parts as BlobPart[]).arrayBuffer());
    size += value.byteLength;
    if (size > most) {
      await reader.cancel();
      return null;
    }
    parts.push(value);
  }
}
