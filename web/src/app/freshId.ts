/** The name itself, or with the first number behind it that none of the others has. */
export function freshId(taken: readonly { readonly id: string }[], name: string): string {
  for (let n = 1; ; n++) {
    const id = n === 1 ? name : `${name}-${n}`;
    if (!taken.some((t) => t.id === id)) return id;
  }
}
