import { checkProject, orderCodeRun, orderRun, performRun, plannedBuild } from '@/core/project';
import { recycleTrace } from '@/core/simulate';
import { makeBuild } from '@/server/builds';
import { LibraryHost } from '@/server/code/libraryHost';
import { readFolder } from '@/server/folder';

/** Runs of each in turn; medians count. */
const rounds = Number(process.argv[2] ?? 15);

/** How much longer a run takes with its controllers as compiled code than on the model, without what is done to hold the two against each other. */
for (const folder of ['demo/tarn-lock', 'demo/autoclave', 'demo/quay-crane']) {
  const project = checkProject((await readFolder(folder)).files);
  const [test] = project.cases;
  if (!test) continue;
  const planned = plannedBuild(project, test.loop);
  if ('because' in planned) throw new Error(planned.because);
  const { library } = await makeBuild(planned);
  const host = new LibraryHost(library);
  const orders = [
    { order: orderRun(project, test), hosts: [] },
    { order: orderCodeRun(project, test, planned, library), hosts: [host] },
  ] as const;
  const times: number[][] = [[], []];
  for (let round = 0; round < rounds + 5; round += 1)
    orders.forEach(({ order, hosts }, which) => {
      const begun = performance.now();
      const { trace } = performRun(order, undefined, false, hosts);
      const ms = performance.now() - begun;
      recycleTrace(trace);
      // The first few are of code that is not fast yet.
      if (round >= 5) times[which]?.push(ms);
    });
  host.close();
  const ratios = (times[0] ?? []).map((ms, index) => (times[1]?.[index] ?? 0) / ms).sort((a, b) => a - b);
  const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
  process.stdout.write(
    `${folder}, "${test.experiment.case}": model ${median(times[0] ?? []).toFixed(1)} ms, code ${median(times[1] ?? []).toFixed(1)} ms, ratio ${median(ratios).toFixed(2)} (${ratios[Math.floor(rounds / 4)]?.toFixed(2)} to ${ratios[Math.floor((3 * rounds) / 4)]?.toFixed(2)})\n`,
  );
}
