'use client';

interface ChoiceProps<T extends string | number> {
  readonly label: string;
  /** What it is called where it stands without a label. */
  readonly named?: string;
  readonly value: T;
  /** Values with the words for them; a value by itself is its own word. */
  readonly options: readonly (T | readonly [value: T, words: string])[];
  readonly choose: (value: T) => void;
  /** The tone of its curves, drawn before the label. */
  readonly tone?: string;
}

/** One of a few, with its label. */
export function Choice<T extends string | number>({ label, named, value, options, choose, tone }: ChoiceProps<T>) {
  const given = options.map((one): readonly [T, string] => (typeof one === 'string' || typeof one === 'number' ? [one, String(one)] : one));
  // A value that is none of them is shown as it is; the browser would show the first.
  const pairs = given.some(([one]) => String(one) === String(value)) ? given : [[value, String(value) || '–'] as const, ...given];
  return (
    <label className="flex items-center gap-2">
      {tone && <span className="inline-block h-0.5 w-4" style={{ background: `var(${tone})` }} />}
      {label}
      <select
        aria-label={named}
        className="max-w-[280px] rounded border border-rule bg-sheet px-1.5 py-1"
        value={value}
        onChange={(event) => {
          const chosen = pairs.find(([one]) => String(one) === event.target.value);
          if (chosen) choose(chosen[0]);
        }}
      >
        {pairs.map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
