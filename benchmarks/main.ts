import { readFolder } from '@/server/folder';
import { againstC, rod } from './againstC';
import { closedLoop } from './closedLoop';
import { compileTime } from './compile';
import { largeDocumentTimes } from './largeDocuments';
import { monitorTime } from './monitor';

/** npm run bench: figures, never tests. Prints what was measured with its parts, so that a loss can be found. */
const { files } = await readFolder('demo/tarn-lock');
// First, while the heap holds nothing of the others.
compileTime('Tarn Lock', files, 'lock', 'components/lock-supervisor.yaml', '2.4');
closedLoop(files);
await againstC('Tarn Lock', files, 'Upward transit, upper reach sways');
await againstC('Quay crane 2', (await readFolder('demo/quay-crane')).files, 'Across the quay');
await againstC('Autoclave 3', (await readFolder('demo/autoclave')).files, 'Full cycle');
await againstC('Rod of 30 states', rod(30), 'warm');
await againstC('Rod of 500 states', rod(500), 'warm');
monitorTime();
largeDocumentTimes();
