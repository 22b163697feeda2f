/** An action that waits until it has not been asked for again for so long, and then is done once with the newest. */
export function afterRest<A>(action: (newest: A) => void, ms: number): (newest: A) => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  return (newest) => {
    clearTimeout(timer);
    timer = setTimeout(() => action(newest), ms);
  };
}
