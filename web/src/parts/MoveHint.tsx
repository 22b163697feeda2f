/** How a plot is moved along and zoomed, for a mouse or for fingers. */
export function MoveHint() {
  return (
    <>
      <span className="pointer-coarse:hidden">
        Drag over the plot to zoom in; Shift + drag to pan; Ctrl + scroll to zoom.
      </span>
      <span className="hidden pointer-coarse:inline">
        Drag with one finger to pan, pinch to zoom, or use the buttons.
      </span>
    </>
  );
}
