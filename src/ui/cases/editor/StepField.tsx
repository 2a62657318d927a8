interface StepFieldProps {
  readonly label: string;
  readonly value: string;
  readonly wide?: boolean;
  readonly set: (text: string) => void;
}

/** A value of a step, taken over when the field is left. */
export function StepField({ label, value, wide = false, set }: StepFieldProps) {
  return (
    <input
      aria-label={label}
      defaultValue={value}
      onBlur={(event) => event.target.value.trim() !== '' && event.target.value !== value && set(event.target.value.trim())}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      className={`figure rounded border border-rule bg-sheet px-1.5 py-1 ${wide ? 'w-64' : 'w-20'}`}
    />
  );
}

/** What a step does, at its begin. */
export function StepWord({ children }: { readonly children: string }) {
  return <b className="w-20 text-[13px]">{children}</b>;
}
