/** A file for the browser to keep; its name is made of letters, digits and dashes only. */
export const download = (
  body: string | Uint8Array,
  type: string,
  name: string,
  extension: string,
): Response =>
  new Response(typeof body === 'string' ? body : (body.buffer as ArrayBuffer), {
    headers: {
      'content-type': type,
      'content-disposition': `attachment; filename="${name.replaceAll(/[^a-z0-9-]+/gi, '-')}.${extension}"`,
    },
  });
export const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
export const notFoundAnswer = (): Response => new Response('Not found', { status: 404 });
