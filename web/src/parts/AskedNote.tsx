interface Props {
  readonly error: string | null;
  readonly isWaiting: boolean;
}

/** What stands in the place of an answer while it is worked out, or where there is none. */
export function AskedNote({ error, isWaiting }: Props) {
  if (error)
    return (
      <p role="alert" className="text-error">
        {error}
      </p>
    );
  return isWaiting ? (
    <p role="status" className="muted">
      Calculating…
    </p>
  ) : null;
}
