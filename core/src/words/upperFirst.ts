/** A text as it starts a sentence: its first letter a capital. */
export const upperFirst = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
