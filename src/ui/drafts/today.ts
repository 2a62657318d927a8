/** Who works here; there are no accounts yet. */
const person = 'local user';

/** Who writes something down, and on which day. */
export function today(): { by: string; on: string } {
  return { by: person, on: new Date().toISOString().slice(0, 10) };
}
