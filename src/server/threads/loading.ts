/**
 * How threads load their bundle: by `import`. Piscina tries `require` first, which Node takes for modules as well, and a thread that is ended in the midst of that takes the whole process with it
 * (Node 20.20: "IsGraphAsync must be used on an instantiated module").
 */
export const loadingOptions: { readonly execArgv?: string[] } = process.allowedNodeEnvironmentFlags.has('--experimental-require-module')
  ? { execArgv: [...process.execArgv, '--no-experimental-require-module'] }
  : {};
