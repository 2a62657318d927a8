export { compileC, type Executable } from './compile';
export { numericSources } from './numericSources';
