/**
 * Looks at the bytes of an MQTT connection as they come, and tells when a packet says that it is longer than allowed: it
 * would be collected whole before anything else could look at it (OASIS MQTT 3.1.1, 2.2.3).
 */
export function packetLimit(mostBytes: number): (piece: Uint8Array) => boolean {
  /** Bytes of the packet that are still to come; -1 before its first byte, less while its length is read. */
  let left = 0;
  let isHead = true;
  let length = 0;
  let shift = 0;
  return (piece) => {
    for (let i = 0; i < piece.length;) {
      if (left > 0) {
        const skipped = Math.min(left, piece.length - i);
        left -= skipped;
        i += skipped;
        continue;
      }
      const byte = piece[i++]!;
      if (isHead) {
        isHead = false;
        length = 0;
        shift = 0;
        continue;
      }
      length += (byte & 127) * 2 ** shift;
      shift += 7;
      if (length > mostBytes || shift > 28) return true;
      if (byte < 128) {
        left = length;
        isHead = true;
      }
    }
    return false;
  };
}
