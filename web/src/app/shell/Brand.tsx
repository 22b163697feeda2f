import { Link } from 'react-router';

export function Brand() {
  return (
    <Link to="/" className="flex items-center gap-2.5 rounded-field" aria-label="Lucky Needle, workshop">
      <svg viewBox="0 0 32 24" className="w-8" aria-hidden>
        <path
          d="M4 20a12 12 0 0 1 24 0"
          fill="none"
          stroke="currentColor"
          strokeWidth="2.4"
          strokeLinecap="round"
        />
        <path d="M16 20 22.6 8.4" stroke="var(--color-accent)" strokeWidth="2.6" strokeLinecap="round" />
        <circle cx="16" cy="20" r="2.4" fill="var(--color-accent)" />
      </svg>
      <span className="font-display text-[1.05rem] font-semibold whitespace-nowrap">Lucky Needle</span>
    </Link>
  );
}
