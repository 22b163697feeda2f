import type { FaceLook, FacePage, FaceWidget } from '../model/face.ts';
import type { DisplayGrid } from './displayGrid.ts';

/** A channel as a starting layout sees it. */
export interface LaidOut {
  readonly id: string;
  readonly isDirection: boolean;
  /** Whether its brief has two ends, so that a needle has a place between them. */
  readonly hasRange: boolean;
}

/** From this width on there is room for larger letters and two columns, pixels. */
const WIDE_PX = 280;

type Placed = Pick<FaceWidget, 'kind' | 'channelId' | 'x' | 'y' | 'width' | 'height'>;

/**
 * A layout to begin with: one reading in big figures with the others in rows, or with a picture of itself. What has no room
 * on the first page stands on the next.
 * @param bigId the channel in big figures, or 'highest'
 */
export function startingPages(
  grid: DisplayGrid,
  channels: readonly LaidOut[],
  bigId: string,
  look: FaceLook,
): FacePage[] {
  const pages = grid.cellPx === 0 ? ofCharacters(grid, channels) : ofPixels(grid, channels, bigId, look);
  return pages.map((widgets, k) => ({
    name: `Page ${k + 1}`,
    widgets: widgets.map((w, i) => ({
      ...w,
      id: `p${k + 1}-${i + 1}`,
      figureId: null,
      // The name of one channel would not tell what the rows of a further page are.
      text: k > 0 && w.kind === 'states' ? `Page ${k + 1}` : '',
    })),
  }));
}

function ofCharacters({ columns, rows }: DisplayGrid, channels: readonly LaidOut[]) {
  const whole = { x: 0, width: columns };
  if (channels.length === 1) {
    const { id } = channels[0]!;
    const high = rows >= 4 ? 3 : 1;
    const first: Placed[] = [{ ...whole, kind: 'figure', channelId: id, y: 0, height: high }];
    if (rows > high) first.push({ ...whole, kind: 'states', channelId: id, y: rows >= 4 ? 3 : 1, height: 1 });
    return [first];
  }
  // Rows that change places cannot be read: all keep the order of the gadget.
  return chunks(channels, rows).map((some) =>
    some.map(({ id }, y): Placed => ({ ...whole, kind: 'row', channelId: id, y, height: 1 })),
  );
}

function ofPixels(grid: DisplayGrid, channels: readonly LaidOut[], bigId: string, look: FaceLook) {
  const { columns, rows, widthPx, heightPx } = grid;
  const isWide = widthPx >= WIDE_PX;
  const pad = isWide ? 2 : 0;
  const top = isWide ? 5 : 4;
  const room = { x: pad, y: top, width: columns - 2 * pad, height: rows - top - (isWide ? 1 : 0) };
  const head: Placed = { kind: 'states', channelId: bigId, x: 0, y: 0, width: columns, height: top };
  const big = channels.find((c) => c.id === bigId) ?? channels[0];
  const first: Placed[] = [head];
  if (!big) return [first];
  // Which one is highest changes: then all have a row, beside the big one.
  const others = bigId === 'highest' ? channels : channels.filter((c) => c !== big);
  if (channels.length === 1 || (look !== 'auto' && look !== 'rows')) {
    first.push(...withPicture(room, bigId, pictureFor(look, big, room.height * grid.cellPx)));
    return [first];
  }
  const step = isWide ? 6 : heightPx < 100 ? 3 : 4;
  const abreast = isWide && others.length > 3 ? 2 : 1;
  const fit = Math.min(Math.ceil(others.length / abreast), Math.max(0, Math.floor((room.height - 5) / step)));
  const listTop = room.y + room.height - fit * step;
  first.push({ ...room, kind: 'figure', channelId: bigId, height: listTop - room.y });
  first.push(...inRows({ ...room, y: listTop }, others.slice(0, fit * abreast), step, abreast));
  const perPage = Math.floor(room.height / step) * abreast;
  const further = chunks(others.slice(fit * abreast), perPage).map((some) => [
    head,
    ...inRows(room, some, step, abreast),
  ]);
  return [first, ...further];
}

type Room = Pick<Placed, 'x' | 'y' | 'width' | 'height'>;

function inRows(room: Room, channels: readonly LaidOut[], step: number, abreast: number): Placed[] {
  const gap = 3;
  const width = Math.floor((room.width - (abreast - 1) * gap) / abreast);
  return channels.map(({ id }, k) => ({
    kind: 'row',
    channelId: id,
    x: room.x + (k % abreast) * (width + gap),
    y: room.y + Math.floor(k / abreast) * step,
    width,
    height: step,
  }));
}

/** The figures with something to see beside or below them. */
function withPicture(room: Room, channelId: string, kind: FaceWidget['kind']): Placed[] {
  const isBeside = kind !== 'bar' && room.width > 1.5 * room.height && room.width >= 30;
  if (isBeside) {
    const width = Math.round(room.height * 1.15);
    return [
      { ...room, kind: 'figure', channelId, width: room.width - width - 1 },
      { ...room, kind, channelId, x: room.x + room.width - width, width },
    ];
  }
  const share = kind === 'bar' ? (room.height > 25 ? 0.25 : 0.32) : 0.55;
  const height = Math.round(room.height * share);
  return [
    { ...room, kind: 'figure', channelId, height: room.height - height - 1 },
    { ...room, kind, channelId, y: room.y + room.height - height, height },
  ];
}

function pictureFor(look: FaceLook, { isDirection, hasRange }: LaidOut, heightPx: number) {
  if (look === 'dial' || look === 'bar' || look === 'trend') return look;
  if (isDirection) return 'rose';
  if (!hasRange) return 'trend';
  return heightPx >= 80 ? 'dial' : 'bar';
}

const chunks = <T>(all: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.ceil(all.length / size) }, (_, k) => all.slice(k * size, (k + 1) * size));
