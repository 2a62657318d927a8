import { encode } from '@/core/exchange';

/** A request that carries a value; the server takes nothing that a form could send. */
export function asJson(value: unknown): RequestInit {
  return { method: 'POST', headers: { 'content-type': 'application/json' }, body: encode(value) };
}
