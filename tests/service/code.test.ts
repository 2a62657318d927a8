import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { orderCodeRun } from '@/core/project';
import { makeBuild } from '@/server/builds';
import { compileLibrary } from '@/server/compiler';
import { RunPool } from '@/server/pool';
import { buildOf, libraryOf } from '../support/code';
import { projectOf } from '../support/project';

const project = projectOf({
  'components/law.yaml':
    'component: Law\ninputs: { x: { type: LREAL } }\noutputs: { u: { type: LREAL } }\nbehaviour: { kind: routine, period: 10 ms, body: "u := 2.0 - x;" }\n',
  'components/plant.yaml':
    'component: Plant\ninputs: { u: { type: LREAL } }\noutputs: { x: { type: LREAL } }\nbehaviour: { kind: equations, states: { a: { start: 0 } }, derivatives: { a: "u - a" }, outputs: { x: a } }\n',
  'loops/l.yaml':
    'loop: l\ncomponents: { law: { use: Law }, plant: { use: Plant } }\nwires: [{ from: law.u, to: plant.u }, { from: plant.x, to: law.x }]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 5 s\n',
  'cases/c.yaml': 'case: work\nloop: l\ntime_limit: 2 s\n',
});
const [test] = project.cases;
const planned = buildOf(project, test!.loop);

/** The C of the build with a statement of its own at every 100th hit. */
const doing = (statement: string) =>
  libraryOf(planned, (file, text) => (file === 'host.c' ? text.replace('s->marked=0;', `s->marked=0;if(hit==100.0){${statement}}`) : text));

describe('code that misbehaves', () => {
  const pool = new RunPool(2);
  afterAll(() => pool.close());
  const run = async (library: string) => (await pool.run(orderCodeRun(project, test!, planned, library))).result;

  it.each([
    ['writes to nowhere', '*(volatile int*)0=1;', 'the code crashed: it read or wrote memory that is not its own'],
    [
      'writes far beyond its memory',
      'for(long i=0;i<4096;i++)((volatile char*)(s+1))[i+16]=1;',
      'the code crashed: it read or wrote memory that is not its own',
    ],
    ['writes before its memory', '((volatile char*)s)[-8]=1;', 'the code wrote outside its memory'],
    ['never comes back', 'for(volatile int i=0;;)i=1;', 'the run took longer than 2 s and was ended; time_limit in the case allows more'],
    ['ends its process', 'extern void exit(int);exit(0);', 'the code ended its process (exit code 0)'],
    ['aborts', 'extern void abort(void);abort();', 'the code ended itself (abort)'],
    ['divides a whole number by zero', 'volatile int seven=7,zero=0;s->marked=seven/zero;', 'the code crashed: it divided a whole number by zero'],
  ])('%s: its run alone is an error, and says so', async (_, statement, message) => {
    const [sound, bad] = await Promise.all([libraryOf(planned), doing(statement)]);
    const [before, broken, after] = await Promise.all([run(sound), run(bad), run(sound)]);
    expect(broken).toMatchObject({ stage: 'code', verdict: 'error', error: { message } });
    for (const one of [before, after, await run(sound)]) {
      expect(one.error).toBeUndefined();
      expect(one.backToBack?.words).toBe('Model and code agree in every bit.');
    }
  });

  it('a file that is no library is an error with a reason', async () => {
    const file = path.join(await mkdtemp(path.join(tmpdir(), 'ovrand-')), 'controller.so');
    await writeFile(file, 'not a library');
    expect((await run(file)).error?.message).toMatch(/controller\.so/);
  });
});

describe('a build', () => {
  it('is made once, has a record, and is made anew where it was damaged', async () => {
    process.env.OVRAND_BUILDS = await mkdtemp(path.join(tmpdir(), 'ovrand-builds-'));
    const first = await makeBuild(planned);
    expect(first.record).toMatchObject({ components: ['law'], width: 64, model: planned.model, fingerprint: planned.fingerprint, warnings: [] });
    expect(first.record.size).toBeGreaterThan(1000);
    expect(await makeBuild(planned)).toEqual(first);
    const [one, other] = await Promise.all([makeBuild(planned), makeBuild(planned)]);
    expect(one).toEqual(other);
    await writeFile(first.library, 'damaged');
    const again = await makeBuild(planned);
    expect(again.record.hash).toBe(first.record.hash);
    expect(again.library).toBe(first.library);
  });

  it('tells the command that installs a compiler where there is none', async () => {
    const { PATH = '' } = process.env;
    process.env.OVRAND_BUILDS = await mkdtemp(path.join(tmpdir(), 'ovrand-builds-'));
    process.env.PATH = '/nonexistent';
    try {
      await expect(compileLibrary(process.env.OVRAND_BUILDS, { files: {}, calls: [] }, 'x.so')).rejects.toThrow('apt-get install -y gcc libc6-dev');
    } finally {
      process.env.PATH = PATH;
    }
  });
});
