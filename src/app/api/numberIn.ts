/** A number in an address; 0, which nothing has, for anything else. */
export function numberIn(text: string): number {
  return /^\d{1,9}$/.test(text) ? Number(text) : 0;
}
