import { type NextRequest, NextResponse } from 'next/server';
import { type Caller, hostsFrom, refusalOf } from '@/server/doors';

const hosts = hostsFrom(process.env.OVRAND_HOSTS);

/** Lets in what is meant for this server, and puts a strict content-security policy, with a fresh nonce, on every page. Pages may not evaluate code; only the engine's worker may. */
export function proxy(request: NextRequest): NextResponse {
  const refused = refusalOf(callerOf(request), hosts);
  if (refused) return NextResponse.json({ error: refused.message }, { status: refused.status });
  const nonce = btoa(crypto.randomUUID());
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('referrer-policy', 'same-origin');
  return response;
}

function callerOf(request: NextRequest): Caller {
  const { pathname, search } = new URL(request.url);
  return { method: request.method, path: pathname, query: search, header: (name) => request.headers.get(name) };
}

export const config = { matcher: ['/((?!_next/static|_next/image|engine/).*)'] };
