/** Arithmetic of a finite field: its elements are the numbers below its order. */
interface Field {
  readonly order: number;
  readonly add: (a: number, b: number) => number;
  readonly times: (a: number, b: number) => number;
}

function primeField(order: number): Field {
  return { order, add: (a, b) => (a + b) % order, times: (a, b) => (a * b) % order };
}

/** Polynomials over the field of two elements, as bits, modulo an irreducible one. */
function binaryField(order: number, modulus: number): Field {
  const times = (a: number, b: number): number => {
    let product = 0;
    for (let bit = 0; 1 << bit <= b; bit += 1) if ((b & (1 << bit)) !== 0) product ^= a << bit;
    for (let bit = 31 - Math.clz32(product | 1); 1 << bit >= order; bit -= 1)
      if ((product & (1 << bit)) !== 0) product ^= (modulus * (1 << bit)) / order;
    return product;
  };
  return { order, add: (a, b) => a ^ b, times };
}

const fields: readonly Field[] = [
  primeField(2),
  primeField(3),
  binaryField(4, 0b111),
  primeField(5),
  primeField(7),
  binaryField(8, 0b1011),
  primeField(11),
  primeField(13),
];

/** The smallest field with at least so many elements, where one is known here. */
function fieldFor(levels: number): Field | undefined {
  return fields.find((one) => one.order >= levels);
}

/** A column of q² rows, by the elements a and b that number a row. */
type Column = (a: number, b: number) => number;

/** The columns of the orthogonal array of q² rows and q + 1 columns (R. C. Bose 1938): a + jb, and b. */
function orthogonal({ order, add, times }: Field): Column[] {
  return [
    ...Array.from(
      { length: order },
      (_, j): Column =>
        (a, b) =>
          add(a, times(j, b)),
    ),
    (_, b) => b,
  ];
}

/** Rows for the first columns of a covering array of strength 2, some more of which may be open. */
type Rows = number[][];

/**
 * Covering arrays of strength 2 that algebra gives, for columns of at most q levels: q² rows for q + 1 columns, and 2q² − q rows for q² + q + 1 (B. Stevens, A. Ling, E. Mendelsohn 2002, Ars
 * Combinatoria 63: each column of one orthogonal array with each of another whose q constant rows are left out, and one column that tells the two apart).
 * @returns both; none where no field is known that has as many elements as there are levels
 */
export function algebraic(levels: number): Rows[] {
  const field = fieldFor(levels);
  if (!field) return [];
  const elements = Array.from({ length: field.order }, (_, element) => element);
  const rowsOf = (row: (a: number, b: number) => number[], from = 0): Rows => elements.slice(from).flatMap((b) => elements.map((a) => row(a, b)));
  const all = orthogonal(field);
  const some = all.slice(0, field.order);
  return [
    rowsOf((a, b) => all.map((column) => column(a, b))),
    [
      ...rowsOf((a, b) => [...all.flatMap((column) => some.map(() => column(a, b))), 0]),
      // Where b is 0 they are constant.
      ...rowsOf((a, b) => [...all.flatMap(() => some.map((column) => column(a, b))), b], 1),
    ],
  ];
}
