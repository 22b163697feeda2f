import type { ReactNode } from 'react';
import type { FieldError } from 'react-hook-form';
import { Explained } from './Explained.tsx';

interface Props {
  readonly label: string;
  readonly error?: FieldError | undefined;
  /** A rule that the schema cannot tell. */
  readonly fault?: string | undefined;
  /** Why the field starts as it does. */
  readonly why?: string | undefined;
  readonly className?: string;
  readonly children: ReactNode;
}

/** A labelled field of a form with what is wrong with it, or why it is as it is. */
export function FormField({ label, error, fault, why, className = '', children }: Props) {
  const message = fault ?? error?.message;
  return (
    <label className={`block ${className}`}>
      <span className="muted mb-1 block text-xs">
        <Explained text={label} />
      </span>
      {children}
      {message ? (
        <span role="alert" className="mt-1 block text-xs text-error">
          {message}
        </span>
      ) : (
        why && <span className="muted mt-1 block text-xs italic">{why}</span>
      )}
    </label>
  );
}
