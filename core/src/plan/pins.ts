import type { BoardPart, DisplayPart } from './part.ts';

export interface PinUse {
  readonly pin: string;
  /** Channel on the pin, or the bus that takes it; null when free. */
  readonly use: string | null;
  readonly bus: boolean;
}

export interface PinConflict {
  readonly pin: string;
  readonly message: string;
}

/** Analog pins left for sensors once the display's bus has taken its own. */
export function freeAnalogPins(board: BoardPart, display: DisplayPart | null): string[] {
  const taken = display ? (board.busPins[display.bus] ?? []) : [];
  return board.analogPins.filter((pin) => !taken.includes(pin));
}

/** Gives each channel the first free analog pin, in order; channels that find none are left out. */
export function assignPins(
  channelIds: readonly string[],
  board: BoardPart,
  display: DisplayPart | null,
): { channelId: string; pin: string }[] {
  const free = freeAnalogPins(board, display);
  return channelIds.flatMap((channelId, i) => (free[i] ? [{ channelId, pin: free[i] }] : []));
}

/** Names every clash: a pin twice, a pin a bus has taken, a pin the board does not have, a channel without a pin. */
export function pinConflicts(
  pins: readonly { channelId: string; pin: string }[],
  channels: readonly { id: string; name: string }[],
  board: BoardPart,
  display: DisplayPart | null,
): PinConflict[] {
  const nameOf = (id: string) => channels.find((c) => c.id === id)?.name ?? id;
  const free = freeAnalogPins(board, display);
  const conflicts: PinConflict[] = [];
  for (const { channelId, pin } of pins) {
    const others = pins.filter((other) => other.pin === pin && other.channelId !== channelId);
    if (
      others.length > 0 &&
      others.every(
        (other) =>
          pins.findIndex((q) => q.channelId === other.channelId) >
          pins.findIndex((q) => q.channelId === channelId),
      )
    ) {
      conflicts.push({
        pin,
        message: `${pin} is used by ${nameOf(channelId)} and ${others.map((o) => nameOf(o.channelId)).join(', ')}. Move one to ${free.find((f) => !pins.some((q) => q.pin === f)) ?? 'another board'}.`,
      });
    }
    if (!board.analogPins.includes(pin)) {
      conflicts.push({
        pin,
        message: `The board has no analog pin ${pin}. It has ${board.analogPins.join(', ')}.`,
      });
    } else if (!free.includes(pin)) {
      conflicts.push({
        pin,
        message: `${pin} belongs to the ${display!.bus} bus, which the display needs. Move ${nameOf(channelId)} to a free pin.`,
      });
    }
  }
  for (const channel of channels) {
    if (!pins.some((q) => q.channelId === channel.id)) {
      conflicts.push({
        pin: '',
        message: `${channel.name} has no pin: ${free.length} analog pins are free for ${channels.length} channels. Choose a board with more, or a display that leaves them free.`,
      });
    }
  }
  return conflicts;
}
