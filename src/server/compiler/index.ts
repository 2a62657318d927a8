export { compileC, compileLibrary, compilerVersion, type Executable, libraryFlags } from './compile';
export { numericSources } from './numericSources';
