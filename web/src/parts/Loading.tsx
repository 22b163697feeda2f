export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="muted flex items-center gap-2 p-6 text-sm">
      <span className="loading loading-ring loading-sm" aria-hidden /> Loading {what}…
    </p>
  );
}
