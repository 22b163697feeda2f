declare function structuredClone<T>(value: T): T;

/**
 * What a stage remembers, as plain data: numbers, words, flags, null, arrays and typed arrays of them, and objects of
 * those. It can be copied, stored and put back, also in another process.
 */
export type Memory = object;

/** A copy that later samples do not change. */
export const saveMemory = <M extends Memory>(memory: M): M => structuredClone(memory);

/**
 * Puts a saved memory back into the one that is in use. Objects inside it stay the ones that they are, since a part of the
 * stage may hold on to one; arrays are replaced, so they are always reached through their object.
 */
export function restoreMemory(memory: Memory, saved: Memory): void {
  const to = memory as Record<string, unknown>;
  for (const [name, value] of Object.entries(saved)) {
    if (isRecord(to[name]) && isRecord(value)) restoreMemory(to[name], value);
    else to[name] = structuredClone(value);
  }
}

function isRecord(value: unknown): value is Memory {
  return typeof value === 'object' && value !== null && !Array.isArray(value) && !ArrayBuffer.isView(value);
}
