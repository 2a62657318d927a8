import Joi from 'joi';
import { describe, expect, it } from 'vitest';
import { either, listOf, object, oneOf, required, type Shape } from '@/core/shapes/shape';

const text: Shape<string> = { joi: Joi.string() };
const number: Shape<number> = { joi: Joi.number() };

interface Thing {
  readonly name: string;
  readonly size?: number;
  readonly kind?: 'a' | 'b';
  readonly parts?: readonly string[];
}

/** Each of these is an error of the compiler; were it none, the marks below would be. */
describe('a shape and its type', () => {
  it('are the same for the compiler', () => {
    object<Thing>({ name: required(text), size: number, kind: oneOf('a', 'b'), parts: listOf(text) });
    // @ts-expect-error a key of the type is left out
    object<Thing>({ name: required(text), size: number, kind: oneOf('a', 'b') });
    // @ts-expect-error a key the type does not have
    object<Thing>({ name: required(text), size: number, kind: oneOf('a', 'b'), parts: listOf(text), more: text });
    // @ts-expect-error what the type demands is not demanded
    object<Thing>({ name: text, size: number, kind: oneOf('a', 'b'), parts: listOf(text) });
    // @ts-expect-error what the type leaves open is demanded
    object<Thing>({ name: required(text), size: required(number), kind: oneOf('a', 'b'), parts: listOf(text) });
    // @ts-expect-error another type
    object<Thing>({ name: required(text), size: text, kind: oneOf('a', 'b'), parts: listOf(text) });
    // @ts-expect-error a value the type does not know
    object<Thing>({ name: required(text), size: number, kind: oneOf('a', 'c'), parts: listOf(text) });
    // @ts-expect-error more than the type lets through
    object<Thing>({ name: required(either([text, number])), size: number, kind: oneOf('a', 'b'), parts: listOf(text) });
  });

  it.each([
    [{ name: 'x' }, true],
    [{ name: 'x', size: 1, kind: 'a', parts: ['p'] }, true],
    [{}, false],
    [{ name: 'x', kind: 'c' }, false],
    [{ name: 'x', parts: [1] }, false],
    [{ name: 'x', more: 1 }, false],
  ])('%o: %s', (value, fits) => {
    const shape = object<Thing>({ name: required(text), size: number, kind: oneOf('a', 'b'), parts: listOf(text) });
    expect(shape.joi.validate(value).error === undefined).toBe(fits);
  });
});
