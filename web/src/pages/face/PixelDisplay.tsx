import { useEffect, useRef, type ReactNode } from 'react';
import type { AlarmOutputs } from '@lucky-needle/core/alarm';
import { INK, type PixelFace } from '@lucky-needle/core/face';
import type { DisplayPart } from '@lucky-needle/core/model';
import { DisplayFrame } from './DisplayFrame.tsx';

type Shows = NonNullable<DisplayPart['shows']>;
type Rgb = readonly [red: number, green: number, blue: number];

/** What each ink looks like on each kind of display: one colour for all but the colour display. */
const PALETTES: Readonly<Record<Shows, { readonly ground: Rgb; readonly inks: readonly Rgb[] }>> = {
  reflective: { ground: [201, 214, 194], inks: [[18, 35, 29]] },
  'self-lit': { ground: [6, 10, 14], inks: [[214, 236, 248]] },
  paper: { ground: [238, 236, 228], inks: [[22, 22, 24]] },
  colour: {
    ground: [10, 20, 24],
    inks: [
      [236, 244, 242],
      [138, 160, 158],
      [240, 178, 62],
      [236, 92, 84],
      [110, 200, 140],
      [255, 122, 89],
    ],
  },
};

interface Props {
  readonly face: PixelFace;
  readonly shows: Shows;
  readonly title: string;
  /** What the face reads out. */
  readonly spoken: string;
  readonly outputs: AlarmOutputs | null;
  readonly over?: ReactNode;
  readonly below?: ReactNode;
  readonly fills?: boolean;
}

/** The display pixel by pixel, as large as the page has room for. */
export function PixelDisplay({ face, shows, title, spoken, outputs, over, below, fills = false }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const image = context.createImageData(face.width, face.height);
    const { ground, inks } = PALETTES[shows];
    face.pixels.forEach((ink, i) => {
      const [r, g, b] = ink === INK.ground ? ground : (inks[ink - 1] ?? inks[0]!);
      image.data.set([r, g, b, 255], 4 * i);
    });
    context.putImageData(image, 0, 0);
  }, [face, shows]);
  const [red, green, blue] = PALETTES[shows].ground;
  return (
    <DisplayFrame
      spoken={spoken}
      caption={`${title}: ${face.width} × ${face.height} pixels, display preview`}
      outputs={outputs}
      below={below}
      fills={fills}
    >
      <div
        className="mx-auto w-fit max-w-full rounded-sm border-4 border-[#0a1f1e] p-2"
        style={{ background: `rgb(${red} ${green} ${blue})` }}
        data-testid="display"
        data-spoken={spoken}
      >
        <div className="relative">
          <canvas
            ref={canvas}
            width={face.width}
            height={face.height}
            className="block h-auto max-w-full"
            style={{
              width: fills ? filling(face) : `${face.width * scaleOf(face)}px`,
              imageRendering: 'pixelated',
            }}
            aria-hidden
          />
          {over}
        </div>
      </div>
    </DisplayFrame>
  );
}

/** As wide as the room around it lets it be, with its frame. */
const filling = ({ width, height }: PixelFace) =>
  `min(calc(100cqw - ${FRAME_PX}px), calc((100cqh - ${FRAME_PX}px) * ${width / height}))`;
const FRAME_PX = 32;

/** Pixels of the page for one of the display: whole ones, so that all are alike, as many as there is room for. */
const scaleOf = ({ width, height }: PixelFace) =>
  Math.max(1, Math.floor(Math.min(WIDEST / width, HIGHEST / height)));
const WIDEST = 640;
const HIGHEST = 400;
