import { Fragment } from 'react';
import { findTerms } from '@lucky-needle/core/words';
import { Term } from './Term.tsx';

/** A text in which the terms of the glossary explain themselves. */
export function Explained({ text }: { readonly text: string }) {
  return findTerms(text).map((part, k) =>
    part.entry ? (
      <Term key={k} entry={part.entry}>
        {part.text}
      </Term>
    ) : (
      <Fragment key={k}>{part.text}</Fragment>
    ),
  );
}
