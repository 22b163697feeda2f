import type { BoardPart, ConverterPart, Part, SensorPart } from '../model/part.ts';
import { printNominal } from '../units/index.ts';

export interface LevelCrossing {
  readonly title: string;
  /** "harm": something may break; "doubt": it may not be understood. */
  readonly kind: 'harm' | 'doubt';
  /** Whether a level shifter mends it. */
  readonly byShifter: boolean;
  readonly sentence: string;
}

type Logic = Pick<Part, 'title' | 'logicV' | 'bearsV' | 'bus'>;

/** Names each crossing of levels between a board and a part: an output above what the other bears, or too low to be seen. */
export function levelCrossing(
  board: Pick<BoardPart, 'title' | 'logicV' | 'bearsV'>,
  part: Logic,
): LevelCrossing | null {
  if (part.logicV === 0 || part.bus === 'analog' || part.bus === 'none') return null;
  const v = (x: number) => `${printNominal(x)} V`;
  if (part.logicV > board.bearsV)
    return {
      title: part.title,
      kind: 'harm',
      byShifter: true,
      sentence: `${part.title} sends ${v(part.logicV)} to a board that tolerates ${v(board.bearsV)}. Put a level shifter or a divider in between.`,
    };
  // What only sends (an edge, a number on a serial line) never has to understand the board.
  const listens = part.bus !== 'edge';
  if (listens && board.logicV > part.bearsV)
    return {
      title: part.title,
      kind: 'harm',
      byShifter: true,
      sentence: `The board sends ${v(board.logicV)} to ${part.title}, which tolerates ${v(part.bearsV)}. Put a level shifter in between.`,
    };
  if (listens && board.logicV < 0.7 * part.logicV)
    return {
      title: part.title,
      kind: 'doubt',
      byShifter: true,
      sentence: `${part.title} needs ${v(0.7 * part.logicV)} (0.7 × ${v(part.logicV)}) for a high level; the board outputs only ${v(board.logicV)}. It often works, but not always: put a level shifter in between.`,
    };
  return null;
}

/** An analog output that rises above the converter's reference is clipped; above what the pin bears it harms. */
export function analogCrossing(
  board: Pick<BoardPart, 'referenceV' | 'bearsV'>,
  title: string,
  highestV: number,
): LevelCrossing | null {
  if (highestV <= board.referenceV) return null;
  const harm = highestV > board.bearsV;
  return {
    title,
    kind: harm ? 'harm' : 'doubt',
    byShifter: false,
    sentence: `${title} rises to ${printNominal(highestV)} V; the ADC reads up to ${printNominal(board.referenceV)} V${harm ? ` and its pin tolerates ${printNominal(board.bearsV)} V` : ''}. Put a divider in front of the pin.`,
  };
}

/** The analog output of a sensor at its highest, against the converter that reads it; null for what is not analog. */
export function sensorCrossing(
  part: SensorPart,
  board: BoardPart,
  converter: ConverterPart | null,
): LevelCrossing | null {
  const reader = converter?.digitises ? converter : board;
  switch (part.signal) {
    case 'voltage':
      return analogCrossing(reader, part.title, Math.max(part.zeroV, part.fullV));
    case 'heated element':
      // In strong vapour hardly any resistance is left: the load takes all of the measuring circuit's volts.
      return analogCrossing(reader, part.title, board.logicV);
    default:
      return null;
  }
}
