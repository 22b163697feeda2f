/**
 * What stands where a plot will, while readings are worked out for the first time.
 * @param share that is done; null where it was given up
 */
export function WorkingOut({
  samples,
  share,
  onCancel,
  onGoOn,
}: {
  samples: number;
  share: number | null;
  onCancel: () => void;
  onGoOn: () => void;
}) {
  const readings = `the readings of ${samples.toLocaleString('en')} samples`;
  return (
    <div role="status" className="flex flex-wrap items-center gap-3 p-6 text-sm">
      {share === null ? (
        <>
          <span className="muted">Stopped before {readings} were calculated. Results so far are kept.</span>
          <button type="button" className="btn btn-sm" onClick={onGoOn}>
            Continue
          </button>
        </>
      ) : (
        <>
          <span className="muted">Calculating {readings}…</span>
          <progress className="progress progress-primary w-40" value={share} max={1} />
          <button type="button" className="btn btn-ghost btn-sm" onClick={onCancel}>
            Cancel
          </button>
        </>
      )}
    </div>
  );
}
