import { Outlet, ScrollRestoration } from 'react-router';
import { KeysHelp } from './KeysHelp.tsx';
import { Toasts } from './Toasts.tsx';

export function Shell() {
  return (
    <>
      <a
        href="#main"
        className="btn btn-primary btn-sm absolute top-2 left-2 z-50 -translate-y-20 focus:translate-y-0"
      >
        Skip to content
      </a>
      <Outlet />
      <Toasts />
      <KeysHelp />
      <ScrollRestoration />
    </>
  );
}
