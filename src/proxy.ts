import { NextResponse, type NextRequest } from 'next/server';

// The server's outer door. It stands on this machine alone: who comes by another name, or from
// another site's page, is sent away before a
// page or a route is asked.

const LOOPBACK = /^(localhost|127(\.\d{1,3}){3}|\[::1\])(:\d{1,5})?$/i;
/** Further names under which a team serves the program, separated by commas. */
const extraHosts = (): string[] =>
  (process.env.FURROW_HOSTS ?? '')
    .split(',')
    .map((h) => h.trim().toLowerCase())
    .filter((h) => h !== '');
const served = (host: string): boolean =>
  LOOPBACK.test(host) || extraHosts().includes(host.toLowerCase());

const refused = (status: number, code: string, message: string): NextResponse =>
  withHeaders(
    NextResponse.json({ error: { code, field: 'request', message } }, { status }),
    "default-src 'none'; frame-ancestors 'none'",
  );

function withHeaders(response: NextResponse, policy: string): NextResponse {
  response.headers.set('content-security-policy', policy);
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('referrer-policy', 'same-origin');
  // A farm's pages and files are private: no cache on the way may keep them.
  response.headers.set('cache-control', 'no-store');
  return response;
}

/** A path that can't be decoded, or holds what no name holds, leads nowhere. */
function readablePath(pathname: string): boolean {
  try {
    // Control characters are what is looked for here.
    return !/[\p{Cc}]/u.test(decodeURIComponent(pathname));
  } catch {
    return false;
  }
}

const policyFor = (nonce: string): string =>
  [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${process.env.NODE_ENV === 'development' ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');

export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get('host') ?? '';
  if (!served(host))
    return refused(421, 'not_allowed', 'This server answers on this machine’s own names only.');
  const writes = !['GET', 'HEAD', 'OPTIONS'].includes(request.method);
  const origin = request.headers.get('origin');
  if (writes && origin !== null && origin !== 'null' && hostOf(origin) !== host)
    return refused(403, 'not_allowed', 'This request came from another site.');
  if (writes && request.headers.get('sec-fetch-site') === 'cross-site')
    return refused(403, 'not_allowed', 'This request came from another site.');
  if (!readablePath(request.nextUrl.pathname))
    return refused(404, 'not_found', 'There is no such page.');
  const nonce = btoa(crypto.randomUUID());
  const policy = policyFor(nonce);
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', policy);
  return withHeaders(NextResponse.next({ request: { headers } }), policy);
}
const hostOf = (origin: string): string | null => {
  try {
    return new URL(origin).host;
  } catch {
    return null;
  }
};

export const config = {
  // Built files are the same for everybody and carry their content in their name.
  matcher: ['/((?!_next/static|_next/image|icon.svg).*)'],
};
