import { NavLink, useLocation, useNavigate, useSearchParams } from 'react-router';
import { Glyph } from '../../parts/Glyph.tsx';
import type { Step } from '../steps.ts';
import { Brand } from './Brand.tsx';
import { useKey } from './keys.ts';
import { ThemeSwitch } from './ThemeSwitch.tsx';

interface Props {
  readonly gadgetId: string;
  readonly gadgetName: string;
  readonly steps: readonly Step[];
  readonly open: boolean;
  onClose(): void;
}

/** The job in its order: a rail beside the page, a drawer on a phone. */
export function StepRail({ gadgetId, gadgetName, steps, open, onClose }: Props) {
  const [search] = useSearchParams();
  const channel = search.get('ch');
  const query = channel ? `?ch=${channel}` : '';
  const { pathname } = useLocation();
  return (
    <aside
      className={`rail z-30 w-60 shrink-0 flex-col bg-neutral text-neutral-content lg:sticky lg:top-0 lg:flex lg:h-dvh lg:w-50 ${open ? 'fixed inset-y-0 left-0 flex overflow-y-auto shadow-2xl' : 'hidden'}`}
    >
      <div className="flex items-center justify-between px-5 pt-5 pb-4">
        <Brand />
        <button
          type="button"
          className="btn btn-ghost btn-sm text-neutral-content lg:hidden"
          onClick={onClose}
          aria-label="Close the step menu"
        >
          ✕
        </button>
      </div>
      <NavLink
        to="/"
        className="mx-4 mb-3 rounded-box border border-white/20 bg-white/6 px-3 py-2 hover:bg-white/12"
      >
        <span className="block text-[0.7rem] opacity-75">Gadget</span>
        <span className="block truncate text-sm font-semibold">{gadgetName}</span>
      </NavLink>
      <nav aria-label="Steps" className="flex flex-col gap-0.5 overflow-y-auto px-3">
        {steps.map((step, i) => {
          const href = `/g/${gadgetId}/${step.path}`;
          const here = pathname === href || (step.path === 'brief' && pathname === `/g/${gadgetId}`);
          return (
            <NavLink
              key={step.path}
              to={href + query}
              onClick={onClose}
              aria-current={here ? 'page' : undefined}
              className={`flex items-start gap-3 rounded-box px-3 py-[0.36rem] ${here ? 'bg-white/14' : 'hover:bg-white/8'}`}
            >
              <span className="pt-1.5">
                <Glyph state={step.state} />
              </span>
              <span className="min-w-0">
                <StepKey index={i} href={href + query} />
                <span className={`block text-[0.95rem] leading-snug ${here ? 'font-semibold' : ''}`}>
                  {step.title}
                </span>
                <span className="num block truncate text-[0.72rem] opacity-75">{step.figure}</span>
              </span>
            </NavLink>
          );
        })}
      </nav>
      <div className="mt-auto flex flex-col gap-1.5 px-6 py-4">
        <NavLink
          to={`/g/${gadgetId}/link`}
          className="rounded-field text-xs opacity-80 hover:opacity-100"
          onClick={onClose}
        >
          Link
        </NavLink>
        <NavLink to="/" className="rounded-field text-xs opacity-80 hover:opacity-100">
          Workshop
        </NavLink>
        <NavLink to="/help" className="rounded-field text-xs opacity-80 hover:opacity-100">
          Help
        </NavLink>
        <ThemeSwitch />
      </div>
    </aside>
  );
}

/** The number key of a step. */
function StepKey({ index, href }: { index: number; href: string }) {
  const navigate = useNavigate();
  useKey(String(index + 1), () => void navigate(href));
  return null;
}
