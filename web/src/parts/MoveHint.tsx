/** How a plot is moved along and zoomed, for a mouse or for fingers. */
export function MoveHint() {
  return (
    <>
      <span className="pointer-coarse:hidden">
        Drag over the plot to look closer, with Shift to move along; Ctrl and the wheel zoom.
      </span>
      <span className="hidden pointer-coarse:inline">
        Move along with a finger, look closer with two, or use the buttons.
      </span>
    </>
  );
}
