import { readFileSync } from 'node:fs';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { zipSync } from 'fflate';
import Joi from 'joi';
import { readBody } from '@/app/api/answer';
import { parseSentence } from '@/core/criteria';
import type { SourceFile } from '@/core/documents';
import { emitScxml } from '@/core/emit/scxml';
import { Faults } from '@/core/fault';
import { readCsvTrace } from '@/core/formats';
import { nameKey, parseExpression, parseRoutine, parseStatements, parseUnits } from '@/core/language';
import { chartConfigurations, checkProject } from '@/core/project';
import { Reader, termsOf } from '@/core/reading';
import { editRequirement, readCsvTable, readMarkdown, readReqif } from '@/core/requirements';
import { refusalOf } from '@/server/doors';
import { readFolder } from '@/server/folder';
import { readXlsx, writeXlsx } from '@/server/tables/xlsx';
import { takeInFiles } from '@/ui/model/documents/takenIn';

/**
 * npm run fuzz [-- MINUTES [SEED]]: broken and mutated texts through every reader, archives, workbooks and requests among them. Ends with exit code 1 on a crash (an exception), a hang
 * (an input over `longestMs`) or memory that grows; prints the seed of the input, which makes it again.
 *
 * Memory is looked at twenty times, after a collection of garbage. What readers keep of late (core/memory) is filled before, and the first quarter fills the versions of
 * the documents; the line through the looks after it says how much each input leaves behind. A piece or a document that is kept is more than the limit; below it lie the engine's own
 * notes on the code, and memories that still fill up to their bounds.
 */
const longestMs = 4000;
const mostLeftBehind = 2000;
const minutes = Number(process.argv[2] ?? 5);
const firstSeed = Number(process.argv[3] ?? 1);
setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;

function generator(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const folders = ['demo/tarn-lock', 'demo/quay-crane', 'demo/autoclave'];
/** Documents of the kinds that the demos have none of. */
const further: readonly SourceFile[] = [
  { path: 'definitions.yaml', text: 'constants: { g: { value: 9.81, unit: m/s2 } }\nenumerations: { Mode: [Idle, Run] }\n' },
  { path: 'parameters/winter.yaml', text: 'parameter_set: winter\nvalues: { chamber.leak: 0.004 }\n' },
  { path: 'recordings/level.csv', text: 'time[s],level[m],open\n0,1,FALSE\n0.25,1.5,FALSE\n1,3,TRUE\n' },
  {
    path: 'components/player.yaml',
    text: 'component: Player\noutputs: { level: { type: LREAL, unit: m } }\nbehaviour: { kind: recording, file: recordings/level.csv }\n',
  },
  {
    path: 'components/ball.yaml',
    text: 'component: Ball\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, states: { h: { start: 1 }, v: { start: 0 } }, derivatives: { h: v, v: -g }, events: [{ when: h <= 0, set: { v: -v } }], outputs: { y: h } }\n',
  },
];
const corpora: readonly (readonly SourceFile[])[] = await Promise.all(
  folders.map(async (folder) => {
    const { files } = await readFolder(folder);
    // Each chart once more as SCXML.
    const charts = [...checkProject(files).project.components.values()].flatMap(({ raw }) =>
      raw.behaviour.kind === 'chart'
        ? [{ path: `components/${raw.component}.scxml`, text: emitScxml({ ...raw, component: `${raw.component}_too` }) }]
        : [],
    );
    return [...files, ...charts, ...further];
  }),
);
const reqif = readFileSync('tests/formats/nested.reqif', 'utf8');
const reader = new Reader(termsOf([...checkProject(corpora[0] ?? []).loops.values()].map((loop) => loop.catalogue)), { synonyms: {}, vague: {} });

const formulas = ['G (↑a ∧ (s ∨ t)⁻ → F[0,2] G[0,1) (b AND x <= 3 m))', 'G (rise(a) -> G[0,1) ¬b ∧ F[1,3] b)', 'G (↑H(0,2] a → (b U[0,9] c))'];
const words =
  ': - { } [ ] " \' # | > & * ! % @ ` := <= => .. ( ) ; , IF THEN ELSE END_IF CASE OF FOR TO DO END_FOR VAR END_VAR FUNCTION_BLOCK END_FUNCTION_BLOCK ARRAY[1..9] NaN 1e999 -0 T#1s 16#FF __proto__ constructor when within while never always \n \n  \t \u0000 \ud800 ± °'.split(
    ' ',
  );

function mutate(text: string, random: () => number): string {
  const at = (limit: number): number => Math.floor(random() * limit);
  const count = 1 + at(6);
  let result = text;
  for (let i = 0; i < count; i += 1) {
    const [from, length] = [at(result.length + 1), at(40)];
    const word = words[at(words.length)] ?? '';
    switch (at(6)) {
      case 0:
        result = result.slice(0, from) + word + result.slice(from);
        break;
      case 1:
        result = result.slice(0, from) + result.slice(from + length);
        break;
      case 2:
        result = result.slice(0, from) + result.slice(at(result.length), at(result.length)) + result.slice(from);
        break;
      case 3:
        result = result.slice(0, from) + word.repeat(1 + at(300)) + result.slice(from);
        break;
      case 4:
        result = result.slice(0, from);
        break;
      default:
        result = `${result.slice(0, from)}${String.fromCharCode(at(0x3000))}${result.slice(from + 1)}`;
    }
  }
  return result.slice(0, 200_000);
}

function feed(seed: number): void {
  const random = generator(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const files = pick(corpora);
  const victim = pick(files);
  const text = mutate(victim.text, random);
  checkProject(files.map((file) => (file === victim ? { ...file, text } : file)));
  const piece = text.slice(0, 2000);
  parseExpression(piece);
  parseRoutine(piece);
  parseUnits(piece);
  readCsvTrace(piece);
  parseSentence(piece.slice(0, 300));
  parseSentence(mutate(pick(formulas), random));
  readCsvTable(piece);
  readMarkdown(piece, []);
  reader.read(piece.slice(0, 400));
  readReqif('a.reqif', mutate(reqif, random), [], new Faults());
  if (victim.path.startsWith('requirements/')) editRequirement(text, ['requirements', 0], { k: 'add', criterion: 'c', sentence: piece.slice(0, 80) });
  chartConfigurations('piece.scxml', victim.path.endsWith('.scxml') ? text : piece, []);
}

const archive = zipSync(
  Object.fromEntries([
    ...(corpora[0] ?? []).map(({ path, text }) => [`lock/${path}`, new TextEncoder().encode(text)] as const),
    ['lock/taken-from.yaml', new TextEncoder().encode('project: aaaaaaaa-0000-4000-8000-000000000001\nrevision: 3\n')],
  ]),
);
const workbook = new Uint8Array(
  await writeXlsx([['id', 'text'], ...Array.from({ length: 30 }, (_, i) => [`R-${i}`, `The level shall not exceed ${i} m.`])], 'R'),
);
const bodyShape = {
  joi: Joi.object({
    base: Joi.number().integer().min(1).required(),
    files: Joi.array().items(Joi.object({ path: Joi.string(), text: Joi.string().allow('') })),
  }),
};

/** Some bytes are others, or gone, or there twice. */
function mutateBytes(bytes: Uint8Array, random: () => number): Uint8Array {
  const at = (limit: number): number => Math.floor(random() * limit);
  let result = Uint8Array.from(bytes);
  for (let count = 1 + at(8); count > 0; count -= 1) {
    const [from, length] = [at(result.length), at(60)];
    if (random() < 0.7) result.fill(at(256), from, from + 1 + at(4));
    else if (random() < 0.5) result = Uint8Array.from([...result.subarray(0, from), ...result.subarray(from + length)]);
    else result = Uint8Array.from([...result.subarray(0, from + length), ...result.subarray(from)]);
  }
  return result;
}

/** What comes packed, or over the wire: archives, workbooks, bodies and addresses of requests. */
async function feedPacked(seed: number): Promise<void> {
  const random = generator(seed ^ 0x5eed);
  await takeInFiles(
    [new File([mutateBytes(archive, random) as BlobPart], 'lock.zip'), new File([mutate('project: x\n', random)], 'project.yaml')],
    [],
  );
  await readXlsx(mutateBytes(workbook, random));
  const body = mutate('{"base":3,"files":[{"path":"cases/a.yaml","text":"case: a"}]}', random);
  await readBody(new Request('http://localhost/', { method: 'POST', body }), bodyShape, 100_000);
  await readBody(
    new Request('http://localhost/', { method: 'POST', body: mutateBytes(new TextEncoder().encode(body), random) as BodyInit }),
    bodyShape,
  );
  const header = (name: string): string => mutate(name === 'host' ? 'localhost:3000' : 'http://localhost:3000', random);
  refusalOf({ method: 'POST', path: mutate('/api/projects/a%20b/revisions', random), query: mutate('?of=R-1', random), header });
}

/** Every so many inputs one is packed: unpacking takes longer than reading. */
const packedEvery = 10;

/**
 * Everything that is remembered within bounds, filled to them, or the heap would go on rising for hours: short texts through the readers, as many as they keep several times over;
 * sound shapes, of which a few long ones take up all the room; compiled programs.
 */
function fill(characters: number): void {
  fillShapes(characters * 2);
  fillPrograms(characters * 3);
  const random = generator(firstSeed);
  const lines = corpora.flatMap((files) => files.flatMap(({ text }) => text.split('\n'))).filter((line) => line.length > 10);
  for (let left = characters; left > 0; ) {
    const text = mutate(lines[Math.floor(random() * lines.length)] ?? '', random).slice(0, 300);
    left -= text.length;
    for (const read of [parseExpression, parseStatements, parseRoutine, parseUnits, parseSentence, nameKey]) read(text);
    reader.read(text);
  }
}

function fillShapes(characters: number): void {
  const about = 'x'.repeat(90_000);
  for (let left = characters, index = 0; left > 0; left -= about.length, index += 1) {
    const text = `component: Long\nbehaviour: { kind: chart, period: 1 s, regions: { r: { initial: A, states: { A: { about: ${about}${index} } } } } }\n`;
    checkProject([
      { path: 'project.yaml', text: 'project: Long\n' },
      { path: 'components/long.yaml', text },
    ]);
  }
}

/** A chart of many states that are told apart by one number. */
function fillPrograms(characters: number): void {
  const states = Array.from(
    { length: 40 },
    (_, index) => `<state id="s${index}"><transition event="e" cond="x &gt; ${index}" target="s${(index + 1) % 40}"/></state>`,
  );
  for (let left = characters, index = 0; left > 0; left -= 10_000, index += 1)
    chartConfigurations(
      'fill.scxml',
      `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" datamodel="ecmascript"><datamodel><data id="x" expr="1"/></datamodel><state id="z"><transition event="f" cond="x == ${index}" target="s0"/></state>${states.join('')}</scxml>`,
      [],
    );
}

fill(1_000_000);
const end = Date.now() + minutes * 60_000;
let [seed, slowest, slowestSeed] = [firstSeed, 0, 0];
const looks: { readonly seed: number; readonly heap: number }[] = [];
let nextLook = Date.now();
while (Date.now() < end) {
  const start = performance.now();
  try {
    feed(seed);
    if (seed % packedEvery === 0) await feedPacked(seed);
  } catch (problem) {
    process.stdout.write(`seed ${seed}: ${problem instanceof Error ? problem.stack : String(problem)}\n`);
    process.exit(1);
  }
  const took = performance.now() - start;
  if (took > slowest) [slowest, slowestSeed] = [took, seed];
  if (took > longestMs) {
    process.stdout.write(`seed ${seed} took ${Math.round(took)} ms\n`);
    process.exit(1);
  }
  if (Date.now() >= nextLook) {
    nextLook += (minutes * 60_000) / 20;
    collect();
    looks.push({ seed, heap: process.memoryUsage().heapUsed });
  }
  seed += 1;
}

/** Slope of the line of least squares, in bytes per input. */
function leftBehind(points: typeof looks): number {
  const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / Math.max(1, list.length);
  const [seeds, heaps] = [points.map((one) => one.seed), points.map((one) => one.heap)];
  const [middle, level] = [mean(seeds), mean(heaps)];
  const across = seeds.map((one) => one - middle);
  return mean(heaps.map((one, index) => (one - level) * (across[index] as number))) / Math.max(1, mean(across.map((one) => one ** 2)));
}

const left = leftBehind(looks.slice(Math.ceil(looks.length / 4)));
process.stdout.write(
  `${seed - firstSeed} inputs in ${minutes} min, no crash; slowest ${Math.round(slowest)} ms (seed ${slowestSeed})\n` +
    `heap in MB: ${looks.map(({ heap }) => (heap / 1e6).toFixed(1)).join(' ')}; left behind after the first quarter: ${Math.round(left)} bytes per input\n`,
);
process.exit(left > mostLeftBehind ? 1 : 0);
