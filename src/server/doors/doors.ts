/** What of a request tells who sent it and what it carries. */
export interface Caller {
  readonly method: string;
  /** As it came, with its escapes. */
  readonly path: string;
  readonly query: string;
  /** The value of a header, if it is there. */
  readonly header: (name: string) => string | null;
}

/** Why a request is not let in. */
export interface Refused {
  readonly status: 400 | 403 | 415 | 421;
  readonly message: string;
}

const ownNames = ['localhost', '127.0.0.1', '[::1]'];
const reading = new Set(['GET', 'HEAD', 'OPTIONS']);

const json = ['application/json'];
const workbook = ['application/vnd.openxmlformats-officedocument.spreadsheetml.sheet', 'application/octet-stream'];

/** What the body of a request may be. A page of another site can send only forms and plain text without being asked first. */
function declaredTypes(path: string): readonly string[] {
  return path === '/api/tables' ? workbook : json;
}

/**
 * Keeps out what a page of another site makes a browser send: requests under a name that is not this server's (a name of theirs that leads here), requests that the browser says come from another site,
 * and bodies that a form could carry.
 * @param hosts further names this server is reached by, besides those of the machine itself
 */
export function refusalOf({ method, path, query, header }: Caller, hosts: readonly string[] = []): Refused | undefined {
  if (!isWritable(path) || !isWritable(query)) return { status: 400, message: 'The address holds characters that cannot be written.' };
  const host = header('host') ?? '';
  const name = host.replace(/:\d+$/, '').toLowerCase();
  if (![...ownNames, ...hosts].includes(name))
    return { status: 421, message: `Ovrand is not reached under the name "${name}". Names it may be reached under stand in OVRAND_HOSTS.` };
  const isPage = reading.has(method) && !path.startsWith('/api/');
  const site = header('sec-fetch-site');
  const origin = header('origin');
  const isForeign = (site !== null && site !== 'same-origin' && site !== 'none') || (origin !== null && hostOf(origin) !== host.toLowerCase());
  if (!isPage && isForeign) return { status: 403, message: 'This request comes from a page of another site.' };
  if (reading.has(method)) return undefined;
  const type = header('content-type')?.split(';')[0]?.trim().toLowerCase();
  const isEmpty = type === undefined && Number(header('content-length') ?? 0) === 0 && header('transfer-encoding') === null;
  if (isEmpty || declaredTypes(path).includes(type ?? '')) return undefined;
  return { status: 415, message: `The body must be ${declaredTypes(path)[0]}, not ${type ?? 'of no type'}.` };
}

/** Whether all escapes stand for text that can be kept. */
function isWritable(escaped: string): boolean {
  try {
    return unwritableIn(decodeURIComponent(escaped)) === undefined;
  } catch {
    return false;
  }
}

/** The first character of a text that neither the database nor XML can hold: NUL, half a character, U+FFFE, U+FFFF. */
export function unwritableIn(text: string): string | undefined {
  const found = /[\0\uFFFE\uFFFF\p{Cs}]/u.exec(text);
  return found ? `U+${found[0].charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}` : undefined;
}

function hostOf(origin: string): string {
  try {
    return new URL(origin).host;
  } catch {
    return '';
  }
}

/** Further names this server is reached by, as its environment says: separated by commas. */
export function hostsFrom(text: string | undefined): string[] {
  return (text ?? '')
    .split(',')
    .map((name) => name.trim().toLowerCase())
    .filter((name) => name !== '');
}
