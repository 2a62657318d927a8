import type Joi from 'joi';
import type { Faults } from '@/core/fault';
import { sentenceOf } from '@/core/wording';
import type { Path, ReadDocument } from '@/core/yaml';
import type { Shape } from './shape';

/**
 * Holds a document against its shape; every breach becomes a fault with its place.
 * @returns what the rest of the checks can go on with: unknown keys are told and passed over, anything else makes it unusable.
 */
export function checkShape<T>(document: ReadDocument, shape: Shape<T>, faults: Faults): T | undefined {
  const details = detailsOf(document, shape.joi);
  for (const detail of document.sound ? details : []) {
    const path: Path = detail.path;
    faults.add(
      'shape',
      isUnknownKey(detail) ? document.keyPlace(path) : document.place(path),
      isUnknownKey(detail) && path.length > 0 ? `"${String(path.at(-1))}" is not known here.` : sentenceOf(sentence(detail.message)),
      fixFor(detail),
    );
  }
  return isShaped(document.value, shape, details) ? document.value : undefined;
}

/** A value on its own, or all that is wrong with it. */
export function shaped<T>(value: unknown, shape: Shape<T>): { readonly value: T } | { readonly wrong: string } {
  const { error } = shape.joi.validate(value, { abortEarly: false, convert: false });
  const details = error?.details ?? [];
  return isShaped(value, shape, details) && details.length === 0 ? { value } : { wrong: details.map((detail) => detail.message).join('; ') };
}

/** The one place where a value gets its type: where its shape has found nothing wrong with it, or no more than keys that were left out since. */
function isShaped<T>(_value: unknown, _shape: Shape<T>, details: readonly Joi.ValidationErrorItem[]): _value is T {
  return details.every(isUnknownKey);
}

/** What was found before in a document that is read again. */
const detailsOfDocuments = new WeakMap<ReadDocument, readonly Joi.ValidationErrorItem[]>();

function detailsOf(document: ReadDocument, shape: Joi.Schema): readonly Joi.ValidationErrorItem[] {
  const known = detailsOfDocuments.get(document);
  if (known) return known;
  const { error } = shape.validate(document.value, { abortEarly: false, convert: false, errors: { label: 'path', wrap: { label: '"' } } });
  const details = error?.details ?? [];
  for (const detail of details) if (isUnknownKey(detail)) remove(document.value, detail.path);
  detailsOfDocuments.set(document, details);
  return details;
}

/** What is not known is told and then left out, so that nobody meets a value that was never looked at. */
function remove(value: unknown, path: Path): void {
  const parent = path.slice(0, -1).reduce<unknown>((at, step) => (at as Record<string | number, unknown> | undefined)?.[step], value);
  const last = path.at(-1);
  if (typeof parent === 'object' && parent !== null && last !== undefined) delete (parent as Record<string | number, unknown>)[last];
}

function isUnknownKey(detail: Joi.ValidationErrorItem): boolean {
  return detail.type === 'object.unknown' || detail.type === 'object.pattern.match';
}

function sentence(message: string): string {
  return message.charAt(0).toUpperCase() + message.slice(1);
}

function fixFor(detail: Joi.ValidationErrorItem): string {
  const allowed = detail.context?.valids as unknown[] | undefined;
  switch (detail.type) {
    case 'any.required':
      return `Add the key "${String(detail.path.at(-1))}".`;
    case 'any.only':
      return `Choose one of: ${(allowed ?? []).map(String).join(', ')}.`;
    case 'object.unknown':
    case 'object.pattern.match':
      // In braces a comma ends the text before it: { about: Open, or closed }
      if (/ /.test(String(detail.path.at(-1))))
        return 'If it belongs to the text before it, put the whole text in quotes: a comma ends one that has none.';
      return 'Remove it, or check its spelling and indentation; names are letters, digits and single underscores. The keys are listed in docs/language.md.';
    default:
      return 'See docs/language.md for the shape of this document.';
  }
}
