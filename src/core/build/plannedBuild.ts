import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { LoopDocument, Project } from '@/core/documents';
import { emitHostedC, type HostedTask } from '@/core/emit/c';
import { planFingerprint } from '@/core/evidence';
import { Faults } from '@/core/fault';
import { nameKey } from '@/core/language';
import { assembleLoop } from '@/core/loop';
import { type Plan, type Queue, type SlotNumber, slotsReadByWork, slotsWritten, type Work } from '@/core/plan';
import { narrowed } from './narrowed';
import { outsideName, type PartLoop, partLoop } from './partLoop';

/** Raised whenever the C that is made of a plan changes its meaning. */
const emitterVersion = 1;

/** How many bits an LREAL has in the code. */
export type FloatWidth = 32 | 64;

/** Some components of a loop that become code together, before a compiler has seen them. */
export interface PlannedBuild {
  /** The components, as the loop calls them. */
  readonly components: readonly string[];
  readonly width: FloatWidth;
  /** The plan of these components alone. */
  readonly plan: Plan;
  readonly inputs: PartLoop['inputs'];
  /** What each task of the plan exchanges at its hits. */
  readonly tasks: readonly HostedTask[];
  /** Slots that get their values before the first hit, in this order: all that belong to the components, then the streams of random numbers. */
  readonly begun: readonly SlotNumber[];
  /** Where messages to the rest of the loop wait. */
  readonly outbox: Queue | undefined;
  /** SHA-256 over the model alone: the plan of these components. */
  readonly model: string;
  /** SHA-256 over all that the code depends on but the compiler: model, version of the emitter, width of floats. */
  readonly fingerprint: string;
}

/** Why some components cannot become code. */
export interface NoBuild {
  readonly because: string;
}

/** Plans a build of some components of a loop. @param names as the loop calls them */
export function planBuild(project: Project, loop: LoopDocument, names: readonly string[], width: FloatWidth): PlannedBuild | NoBuild {
  const { loop: part, components, inputs } = partLoop(project, loop, names);
  const faults = new Faults();
  const { plan: whole } = assembleLoop({ ...project, components }, part, faults);
  const [fault] = faults.all();
  if (fault) return { because: `${names.join(', ')} cannot stand alone: ${fault.message}` };
  const because = refusal(whole, names);
  if (because) return { because };
  const plan = width === 32 ? narrowed(whole) : whole;
  const isOutward = ({ name }: { readonly name: string }): boolean => headOf(name) === nameKey(outsideName);
  const outbox = plan.messages.find(isOutward)?.queue;
  const queues = plan.messages.filter((message) => !isOutward(message)).map((message) => message.queue);
  const model = planFingerprint(whole);
  const own = ownSlots(plan, names);
  return {
    components: names,
    width,
    plan,
    inputs,
    tasks: plan.tasks.map(({ work }) => exchanged(plan, work, new Set(own), queues)),
    begun: [...own, ...plan.draws],
    outbox,
    model,
    fingerprint: bytesToHex(sha256(utf8ToBytes(JSON.stringify({ emitterVersion, model, width })))),
  };
}

/** The C of a build, ready for the compiler. */
export function buildSources({ plan, tasks, begun, outbox }: PlannedBuild): ReturnType<typeof emitHostedC> {
  return emitHostedC(plan, tasks, begun, outbox);
}

function refusal(plan: Plan, names: readonly string[]): string | undefined {
  const what = names.join(', ');
  const [unit] = plan.units ?? [];
  if (unit) return `${unit.component} is a co-simulation unit, which brings its own code.`;
  const continuous = plan.states[0]?.slot ?? plan.delays?.[0]?.slot ?? plan.assignments[0]?.slot;
  if (continuous !== undefined) return `${plan.slots[continuous]?.name ?? what} is continuous; only sampled components become code.`;
  if (plan.played.length > 0) return `${what} plays a recording; that is no code of a controller.`;
  return plan.tasks.length === 0 ? `${what} has no sampled work that could become code.` : undefined;
}

/** Slots that are there under the same names in the loop: those named after a component. */
function ownSlots({ slots }: Plan, names: readonly string[]): SlotNumber[] {
  const own = new Set(names.map(nameKey));
  return [...slots.keys()].filter((slot) => own.has(headOf(slots[slot]?.name ?? '')));
}

/** The component a slot is named after. */
export function headOf(name: string): string {
  return nameKey(/^[^. ]*/.exec(name)?.[0] ?? '');
}

/** @param own slots that the loop has as well */
function exchanged(plan: Plan, work: readonly Work[], own: ReadonlySet<SlotNumber>, queues: readonly Queue[]): HostedTask {
  const [read, written] = [slotsReadByWork(work), slotsWritten(work)];
  const waiting = queues.filter((queue) => written.has(queue.waiting) || read.has(queue.waiting)).flatMap(slotsOfQueue);
  const taken = [...plan.inputs.map((input) => input.slot), ...plan.parameters].filter((slot) => read.has(slot));
  return { takes: [...new Set([...taken, ...waiting])], gives: [...written].filter((slot) => own.has(slot)) };
}

function slotsOfQueue({ codes, values, head, waiting }: Queue): SlotNumber[] {
  const row = ({ base, count }: Queue['codes']): SlotNumber[] => Array.from({ length: count }, (_, index) => base + index);
  return [...row(codes), ...row(values), head, waiting];
}
