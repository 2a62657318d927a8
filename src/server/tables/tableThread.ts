import { readXlsx } from './xlsx';

/** Reads a workbook in a thread: what its cells unfold to is known only afterwards. */
export default readXlsx;
