export { cellText, csvCell } from './csvCell';
export { type ReadTrace, readCsvTrace, writeCsvTrace } from './csvTrace';
export { type ReportLine, writeJUnit } from './junit';
export { writeLedgerCsv } from './report';
export { writeVcd } from './vcd';
export { possibleInXml, xmlText } from './xmlText';
