import type { CaseDocument, DeskDocument, LoopDocument, Project, SceneDocument } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { readTime, readValue } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import type { AssembledLoop, CatalogueEntry, Role } from '@/core/loop';
import type { RawDesk } from '@/core/shapes';
import type { ReadDocument } from '@/core/yaml';
import { formsOf } from './forms';
import { deskSignals } from './signals';

const roles: readonly Role[] = ['input', 'output', 'state', 'variable', 'parameter', 'region'];
type Loops = ReadonlyMap<string, AssembledLoop>;

/** A signal's full name from the end of it that a document gives. */
export function signalNamed({ catalogue }: AssembledLoop, name: string): CatalogueEntry | undefined {
  return catalogue.findEntry(name, roles);
}

/** The loop a desk or a scene is for, by `nameKey`. */
export function loopKeyOf({ loop, variant }: Pick<RawDesk, 'loop' | 'variant'>): string {
  return nameKey(variant === undefined ? loop : `${loop}/${variant}`);
}

/** Tells the faults of a desk: names that are not there, forms that do not fit, values outside limits. */
export function checkDesk({ document, raw }: DeskDocument, project: Project, loops: Loops, faults: Faults): void {
  const loop = loopOf(raw, document, project, loops, faults);
  const written = project.loops.get(loopKeyOf(raw));
  if (!loop || !written) return;
  if (raw.start_from !== undefined && !project.cases.has(nameKey(raw.start_from)))
    unknown('case', raw.start_from, [...project.cases.values()].map(caseName), document, ['start_from'], faults);
  const ids = project.requirements.map((one) => one.raw.requirement);
  (raw.requirements ?? []).forEach((id, index) => {
    if (!ids.some((one) => nameKey(one) === nameKey(id))) unknown('requirement', id, ids, document, ['requirements', index], faults);
  });
  checkItems(raw, document, loop, written, faults);
  checkButtons(raw, document, loop, faults);
}

function caseName({ raw }: CaseDocument): string {
  return raw.case;
}

function checkItems(raw: RawDesk, document: ReadDocument, loop: AssembledLoop, written: LoopDocument, faults: Faults): void {
  const signals = deskSignals(loop, written);
  raw.items.forEach((item, index) => {
    const path = ['items', index];
    const entry = signalIn(loop, item.signal, document, [...path, 'signal'], faults);
    const signal = signals.find((one) => one.slot === entry?.slot);
    if (item.with !== undefined) signalIn(loop, item.with, document, [...path, 'with'], faults);
    if (!entry || !signal) return;
    const forms = formsOf(signal);
    if (!forms.includes(item.as))
      faults.add(
        'type',
        document.place([...path, 'as']),
        `${signal.name} is ${signal.access === 'set' ? '' : 'only read and '}of type ${signal.type}; it cannot be a ${item.as}.`,
        `Forms that fit: ${forms.join(', ')}.`,
      );
    if (item.as === 'x-y' && item.with === undefined)
      faults.add('type', document.place(path), 'An x-y display needs a second signal.', 'Add with: and the signal along the other axis.');
    if (item.min !== undefined && item.max !== undefined && item.min >= item.max)
      faults.add(
        'outside-limits',
        document.place([...path, 'max']),
        `The range ${item.min} … ${item.max} is empty.`,
        'Give max: a value above min:.',
      );
    if (item.start !== undefined) readValue(item.start, signal, document.place([...path, 'start']), faults);
  });
}

function checkButtons(raw: RawDesk, document: ReadDocument, loop: AssembledLoop, faults: Faults): void {
  (raw.buttons ?? []).forEach((button, at) => {
    button.do.forEach((step, index) => {
      const path = ['buttons', at, 'do', index];
      if ('hold' in step) readTime(step.hold, document.place([...path, 'hold']), faults);
      else if ('set' in step)
        for (const [name, value] of Object.entries(step.set)) {
          const entry = loop.catalogue.findEntry(name, ['input']);
          if (entry) readValue(value, entry, document.place([...path, 'set', name]), faults);
          else
            unknown(
              'free input',
              name,
              loop.plan.inputs.map((input) => input.name),
              document,
              [...path, 'set', name],
              faults,
            );
        }
      else if (!loop.plan.messages.some((one) => nameKey(one.name) === nameKey(step.send)))
        unknown(
          'message',
          step.send,
          loop.plan.messages.map((one) => one.name),
          document,
          [...path, 'send'],
          faults,
        );
    });
  });
}

/** Tells the faults of a scene: a picture or a part of it that is not there, signals that are not there. */
export function checkScene({ document, raw }: SceneDocument, project: Project, loops: Loops, faults: Faults): void {
  const loop = loopOf(raw, document, project, loops, faults);
  const path = `scenes/${raw.picture}`;
  const picture = project.pictures.get(path);
  if (picture === undefined) {
    const known = [...project.pictures.keys()].flatMap((one) => (one.startsWith('scenes/') ? [one.slice('scenes/'.length)] : []));
    unknown('picture', raw.picture, known, document, ['picture'], faults);
  }
  const parts = picture?.svg === undefined ? undefined : picture.ids;
  raw.moves.forEach((move, index) => {
    const entry = loop && signalIn(loop, move.by, document, ['moves', index, 'by'], faults);
    if (parts && !parts.includes(move.part)) unknown('part with this id', move.part, parts, document, ['moves', index, 'part'], faults);
    if (entry && move.set && !move.from && (entry.min === undefined || entry.max === undefined) && entry.type !== 'BOOL')
      faults.add(
        'outside-limits',
        document.place(['moves', index]),
        `${entry.name} has no limits; the movement cannot be scaled by them.`,
        'Add from: [least, greatest].',
      );
  });
}

function loopOf(
  raw: Pick<RawDesk, 'loop' | 'variant'>,
  document: ReadDocument,
  { unusable }: Project,
  loops: Loops,
  faults: Faults,
): AssembledLoop | undefined {
  const loop = loops.get(loopKeyOf(raw));
  if (!loop && !unusable.has(nameKey(raw.loop))) {
    const name = raw.variant === undefined ? raw.loop : `${raw.loop}/${raw.variant}`;
    unknown(
      'loop',
      name,
      [...loops.values()].map((one) => one.plan.loop),
      document,
      [raw.variant === undefined ? 'loop' : 'variant'],
      faults,
    );
  }
  return loop;
}

function signalIn(loop: AssembledLoop, name: string, document: ReadDocument, path: (string | number)[], faults: Faults): CatalogueEntry | undefined {
  const entry = signalNamed(loop, name);
  // What a faulty component would have is not told again.
  if (!entry && !loop.catalogue.excuses(name.split('.')))
    unknown(
      'signal',
      name,
      loop.catalogue.entries.map((one) => one.name),
      document,
      path,
      faults,
    );
  return entry;
}

function unknown(what: string, name: string, known: readonly string[], document: ReadDocument, path: (string | number)[], faults: Faults): void {
  const near =
    nearestName(name, known) ??
    nearestName(
      name,
      known.map((one) => one.split('.').at(-1) ?? one),
    );
  faults.add(
    'unknown-name',
    document.place(path),
    `There is no ${what} "${name}".`,
    near
      ? `Did you mean "${near}"?`
      : known.length > 0
        ? `There is: ${known.slice(0, 12).join(', ')}${known.length > 12 ? ', …' : ''}.`
        : 'There is none.',
  );
}
