import { decode, encode } from '@/core/exchange';
import { type Shape, shaped } from '@/core/shapes';
import { unwritableIn } from '@/server/doors';
import { log } from '@/server/log';

/** An answer whose numbers arrive as they are, without bound or missing. */
export function send(value: unknown, status = 200): Response {
  return new Response(encode(value), { status, headers: { 'content-type': 'application/json' } });
}

/** A refusal with a sentence that says what is wrong. */
export function refuse(status: 400 | 404 | 409 | 413, message: string): Response {
  return send({ error: message }, status);
}

/** Reads a JSON body against a shape; all breaches are told at once. */
export async function readBody<T>(request: Request, shape: Shape<T>, largest = 1_000_000): Promise<T | Response> {
  const bytes = await readBytes(request, largest);
  if (bytes instanceof Response) return bytes;
  let value: unknown;
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    value = text === '' ? {} : decode(text);
  } catch {
    return refuse(400, 'The request is not JSON in UTF-8.');
  }
  const unwritable = unwritableAt(value, '');
  if (unwritable) return refuse(400, `"${unwritable.at}" holds ${unwritable.character}, a character that cannot be written.`);
  const found = shaped(value, shape);
  return 'value' in found ? found.value : refuse(400, found.wrong);
}

/** The body of a request, as far as it keeps to a size in bytes. */
export async function readBytes(request: Request, largest: number): Promise<Uint8Array | Response> {
  const tooLarge = (): Response => refuse(413, `The request is larger than ${largest / 1e6} MB.`);
  if (Number(request.headers.get('content-length') ?? 0) > largest) return tooLarge();
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const part of request.body ?? []) {
    size += part.byteLength;
    if (size > largest) return tooLarge();
    parts.push(part);
  }
  return Buffer.concat(parts);
}

/** The first text in a value with a character that neither database nor XML can hold. */
function unwritableAt(value: unknown, at: string): { readonly at: string; readonly character: string } | undefined {
  if (typeof value === 'string') {
    const character = unwritableIn(value);
    return character === undefined ? undefined : { at, character };
  }
  if (typeof value !== 'object' || value === null) return undefined;
  for (const [key, inner] of Object.entries(value)) {
    const found = unwritableAt(inner, at === '' ? key : `${at}.${key}`);
    if (found) return found;
  }
  return undefined;
}

/** Runs a handler; a defect of ours is logged and answered in plain words, never with its insides. */
export async function answer(handle: () => Promise<Response>): Promise<Response> {
  try {
    return await handle();
  } catch (problem) {
    log.error({ problem: problem instanceof Error ? problem.stack : String(problem) }, 'request failed');
    return send({ error: 'The database did not answer, or there was an internal error in Ovrand. Try again; the server’s log says more.' }, 503);
  }
}
