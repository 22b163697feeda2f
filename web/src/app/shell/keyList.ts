/** Every keyboard shortcut: key, where it works, and what it does. */
export const KEYS: readonly { readonly key: string; readonly where: string; readonly what: string }[] = [
  { key: '?', where: 'Everywhere', what: 'Show the keyboard shortcuts' },
  { key: 'W', where: 'Everywhere', what: 'Go to Workshop' },
  { key: '1 … 9', where: 'In a gadget', what: 'Go to that step' },
  {
    key: '0 … 9',
    where: 'Runs, while recording',
    what: 'Label for the next trial, instead of the step (0 for none)',
  },
  { key: 'Space', where: 'True-up', what: 'Capture the point' },
  { key: 'C', where: 'True-up', what: 'Capture the point as a check' },
  { key: 'Space', where: 'Line', what: 'Press the manual button, if the line has one' },
  { key: 'U / R', where: 'Line', what: 'Undo, redo' },
  { key: 'S', where: 'Line', what: 'Save the line' },
];
