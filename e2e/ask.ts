import { DEMO_PORT } from './playwright.config.ts';

/** The bench with the mill in it. */
export const DEMO = `http://127.0.0.1:${DEMO_PORT}`;

/** Asks its API, as a script would. */
export async function ask<T>(path: string, method = 'GET', body?: object, headers: object = {}): Promise<T> {
  const answer = await fetch(`${DEMO}/api${path}`, {
    method,
    headers: { 'Content-Type': 'application/json', ...headers },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  const text = await answer.text();
  if (!answer.ok) throw new Error(text);
  return (text ? JSON.parse(text) : null) as T;
}
