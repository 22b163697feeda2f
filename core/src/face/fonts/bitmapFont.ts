/** A font of fixed width whose characters are rows of pixels. */
export interface BitmapFont {
  readonly width: number;
  readonly height: number;
  /** By character: rows from the top, each of as many hexadecimal digits as the width needs, its rightmost bit the last pixel. */
  readonly glyphs: Readonly<Record<string, string>>;
}
