/** How the separators of a number are taken where they can be taken in two ways: 1,200 and 1.200. */
export type Separators = 'comma groups' | 'dot groups';

/** A number as prose writes it: signs, groups of three by blanks, apostrophes, commas or dots, a decimal comma or dot, a power of ten. */
export const numberPattern = String.raw`[-−–+]?\d+(?:(?:[ \u00a0\u202f'’]\d{3}(?!\d))|[.,]\d+)*(?:[eE][-+−–]?\d+(?![\p{L}\d])|\s?[×x·*]\s?10\^[-−–]?\d+)?`;

/** What a number of prose can mean. More than one value: it is asked about. */
export function numberValues(text: string): readonly { readonly value: number; readonly separators?: Separators }[] {
  const written = /^(.*?)(?:[eE]([-+−–]?\d+)|\s?[×x·*]\s?10\^([-−–]?\d+))?$/.exec(text);
  const [mantissa, power] = [written?.[1] ?? '', written?.[2] ?? written?.[3] ?? '0'];
  const plain = mantissa.replace(/[−–]/, '-').replace(/[ \u00a0\u202f'’]/g, '');
  const scale = 10 ** Number(power.replace(/[−–]/, '-'));
  const of = (digits: string): number => Number((Number(digits) * scale).toPrecision(15));
  const [commas, dots] = [plain.split(',').length - 1, plain.split('.').length - 1];
  const withoutCommas = (): number => of(plain.replaceAll(',', ''));
  const withoutDots = (): number => of(plain.replaceAll('.', '').replace(',', '.'));
  if (commas === 0 && dots === 0) return [{ value: of(plain) }];
  // The last of two kinds is the decimal one, whatever the country.
  if (commas > 0 && dots > 0) {
    const isCommaLast = plain.lastIndexOf(',') > plain.lastIndexOf('.');
    if (isCommaLast ? commas > 1 || !areGroups(plain, '.') : dots > 1 || !areGroups(plain, ',')) return [];
    return [{ value: isCommaLast ? withoutDots() : withoutCommas() }];
  }
  const mark = commas > 0 ? ',' : '.';
  if (commas + dots > 1) return areGroups(plain, mark) ? [{ value: commas > 0 ? withoutCommas() : withoutDots() }] : [];
  const decimal = of(plain.replace(',', '.'));
  const couldBeGroup = /^[-+]?[1-9]\d{0,2}[.,]\d{3}$/.test(plain);
  if (!couldBeGroup) return [{ value: decimal }];
  return commas > 0
    ? [
        { value: withoutCommas(), separators: 'comma groups' },
        { value: decimal, separators: 'dot groups' },
      ]
    : [
        { value: decimal, separators: 'comma groups' },
        { value: withoutDots(), separators: 'dot groups' },
      ];
}

/** Each group behind the first has three digits. */
function areGroups(plain: string, mark: string): boolean {
  const whole = mark === ',' ? (plain.split('.')[0] ?? '') : (plain.split(',')[0] ?? '');
  const [first = '', ...rest] = whole.replace(/^[-+]/, '').split(mark);
  return first.length >= 1 && first.length <= 3 && rest.every((group) => group.length === 3);
}

/** The way a text writes its numbers, as far as one of them leaves no doubt; both where none does. */
export function separatorsOf(prose: string): readonly Separators[] {
  const numbers = [...prose.matchAll(new RegExp(`(?<![\\w.,])${numberPattern}`, 'gu'))].map(([text]) => text);
  const isSure = (decimal: string, groups: string): boolean =>
    numbers.some(
      (text) =>
        new RegExp(`^[-−–+]?(?:\\d+|\\d{1,3}(?:\\${groups}\\d{3})+)\\${decimal}(?!\\d{3}$)\\d+$`).test(text) ||
        new RegExp(`^[-−–+]?\\d{1,3}(?:\\${groups}\\d{3}){2,}$`).test(text),
    );
  const [english, continental] = [isSure('.', ','), isSure(',', '.')];
  if (english === continental) return ['comma groups', 'dot groups'];
  return english ? ['comma groups'] : ['dot groups'];
}
