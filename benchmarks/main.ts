import { readFolder } from '@/server/folder';
import { closedLoop } from './closedLoop';

/** npm run bench: figures, never tests. Prints what was measured with its parts, so that a loss can be found. */
const { files } = await readFolder('demo/tarn-lock');
closedLoop(files);
