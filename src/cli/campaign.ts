import { availableParallelism } from 'node:os';
import { type Command, Option } from 'commander';
import { laidCampaign } from '@/core/campaign';
import { nameKey, nearestName } from '@/core/language';
import type { CheckedCampaign, CheckedProject } from '@/core/project';
import { type Stage, stages } from '@/core/shapes';
import { performAndReport, type ReportOptions } from './manyRuns';
import { wholeNumber } from './number';
import { openSound } from './open';

interface Options extends ReportOptions {
  readonly seed?: number;
  readonly stage?: Stage;
}

/** `ovrand campaign DIR NAME`: the runs of a campaign document. Exit codes as of `sweep`. */
export function campaignCommand(program: Command): void {
  program
    .command('campaign')
    .description('run a campaign: cases at many values, as campaigns/*.yaml says')
    .argument('<folder>', 'folder that holds project.yaml')
    .argument('<name>', 'name of the campaign')
    .option('--jobs <n>', 'worker threads', wholeNumber(1, 256), availableParallelism())
    .addOption(new Option('--stage <stage>', 'in place of the stage of the campaign').choices(stages))
    .option('--seed <n>', 'in place of the seed of the campaign', wholeNumber(0, 2 ** 32 - 1))
    .option('--json [file]', 'print what was found as JSON, or write it to a file')
    .option('--csv <file>', 'write a row for each run')
    .action(async (folder: string, name: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      const campaign = campaignNamed(project, name);
      const { seed = campaign.seed, stage = campaign.stage } = options;
      await performAndReport(project, laidCampaign(project, { ...campaign, seed, stage }), options);
    });
}

function campaignNamed({ campaigns }: CheckedProject, name: string): CheckedCampaign {
  const names = campaigns.map((one) => one.document.raw.campaign);
  const found = campaigns.find((one) => nameKey(one.document.raw.campaign) === nameKey(name));
  if (found) return found;
  const near = nearestName(name, names);
  const those = names.length > 0 ? `the campaigns are: ${names.join(', ')}` : 'there are none; write one under campaigns/';
  throw new Error(`there is no campaign "${name}"; ${near ? `did you mean "${near}"?` : those}`);
}
