/** The page that asks for the passphrase: whole by itself, since nothing else is served before. */
export function signInPage(next: string, wrong: string | null): string {
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Lucky Needle: sign in</title>
<style>
:root { color-scheme: light dark; --ink: #14211f; --paper: #eef2f1; --panel: #fff; --edge: #b9c6c3; --deep: #0f2b28; --trouble: #a8123e }
@media (prefers-color-scheme: dark) { :root { --ink: #e6eeec; --paper: #0d1a19; --panel: #142524; --edge: #35504c; --deep: #1c5c52; --trouble: #ff8fab } }
body { margin: 0; min-height: 100vh; display: grid; place-items: center; background: var(--paper); color: var(--ink); font: 16px/1.5 system-ui, sans-serif }
main { box-sizing: border-box; width: min(24rem, calc(100vw - 2rem)); padding: 1.5rem; background: var(--panel); border: 1px solid var(--edge); border-radius: .6rem }
h1 { margin: 0 0 .25rem; font-size: 1.4rem }
p { margin: 0 0 1rem }
label { display: block; margin-bottom: .25rem; font-size: .9rem }
input, button { box-sizing: border-box; width: 100%; padding: .6rem .75rem; font: inherit; border-radius: .4rem; border: 1px solid var(--edge) }
input { margin-bottom: 1rem; background: transparent; color: inherit }
button { border-color: transparent; background: var(--deep); color: #fff; font-weight: 600; cursor: pointer }
:focus-visible { outline: 2px solid #e2452f; outline-offset: 2px }
.trouble { color: var(--trouble) }
</style>
</head>
<body>
<main>
<h1>Lucky Needle</h1>
<p>Enter the passphrase to open this Lucky Needle.</p>
${wrong === null ? '' : `<p class="trouble" role="alert">${escape(wrong)}</p>`}
<form method="post" action="/sign-in">
<input type="hidden" name="next" value="${escape(next)}">
<label for="passphrase">Passphrase</label>
<input id="passphrase" name="passphrase" type="password" autocomplete="current-password" required autofocus>
<button>Sign in</button>
</form>
</main>
</body>
</html>
`;
}

const escape = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** Where to go on after signing in: a page of this bench, never of another. */
export const pageOf = (next: unknown): string =>
  typeof next === 'string' && /^\/(?![/\\])[^\s\\]{0,500}$/.test(next) ? next : '/';
