import { Fragment } from 'react';

/** A name that may go on in the next line after a dot or an underscore. */
export function Breakable({ name }: { readonly name: string }) {
  const parts = name.split(/(?<=[._])/);
  return parts.map((part, index) => (
    // The same part may stand in a name twice.
    <Fragment key={parts.slice(0, index + 1).join('')}>
      {part}
      <wbr />
    </Fragment>
  ));
}
