export { readXlsx, writeXlsx } from './xlsx';
