import type Joi from 'joi';
import { decode, encode } from '@/core';
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
export async function readBody<T>(request: Request, shape: Joi.ObjectSchema<T>, largest = 1_000_000): Promise<T | Response> {
  const text = await request.text();
  if (text.length > largest) return refuse(413, `The request is larger than ${largest / 1e6} MB.`);
  let value: unknown;
  try {
    value = text === '' ? {} : decode(text);
  } catch {
    return refuse(400, 'The request is not JSON.');
  }
  const { error, value: fitting } = shape.validate(value, { abortEarly: false, convert: false });
  return error ? refuse(400, error.details.map((detail) => detail.message).join('; ')) : (fitting as T);
}

/** Runs a handler; a defect of ours is logged and answered in plain words, never with its insides. */
export async function answer(handle: () => Promise<Response>): Promise<Response> {
  try {
    return await handle();
  } catch (problem) {
    log.error({ problem: problem instanceof Error ? problem.stack : String(problem) }, 'request failed');
    return send({ error: 'The database did not answer, or the program met a mistake of its own. Try again; the log says more.' }, 503);
  }
}
