export { readWorkbook } from './readApart';
export { writeXlsx } from './xlsx';
