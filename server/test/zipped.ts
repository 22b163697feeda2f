import { strToU8, zipSync } from 'fflate';
import {
  delimitedWriter,
  DESCRIPTOR_FILE,
  PACKAGE_TABLE_FILE,
  packageDescriptor,
  type TableColumn,
} from '@lucky-needle/core/formats';

/** A zip archive of some texts, or bytes. */
export const zipped = (files: Record<string, string | Uint8Array>): Uint8Array =>
  zipSync(
    Object.fromEntries(
      Object.entries(files).map(([name, text]) => [name, typeof text === 'string' ? strToU8(text) : text]),
    ),
  );

/** A data package with a table of these rows. */
export function packageOf(
  columns: readonly TableColumn[],
  rows: readonly { readonly timeS: number; readonly values: readonly number[] }[],
): Uint8Array {
  const writer = delimitedWriter(columns);
  return zipped({
    [DESCRIPTOR_FILE]: packageDescriptor({ name: 'k', title: 'K', columns }),
    [PACKAGE_TABLE_FILE]: [writer.heading(), ...rows.map((r) => writer.row(r.timeS, r.values))].join('\r\n'),
  });
}
