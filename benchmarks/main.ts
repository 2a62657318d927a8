import { readFolder } from '@/server/folder';
import { againstC, compileTime } from './againstC';
import { closedLoop } from './closedLoop';

/** npm run bench: figures, never tests. Prints what was measured with its parts, so that a loss can be found. */
const { files } = await readFolder('demo/tarn-lock');
closedLoop(files);
compileTime('Tarn Lock', files, 'components/lock-supervisor.yaml');
await againstC('Tarn Lock', files, 'Upward transit, upper reach sways');
