import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { delimitedReader, delimitedWriter, planDelimited } from './delimited.ts';
import { collectTable, type TableColumn } from './tableSink.ts';

/** What a file of a package may open to: more is a trap, or too much to hold at once. */
const LARGEST = 1_000_000_000;

export interface PackageContent {
  readonly name: string;
  readonly title: string;
  readonly columns: readonly TableColumn[];
  readonly rows: readonly { readonly timeS: number; readonly values: readonly number[] }[];
  /** Further facts for datapackage.json: line, calibration version, place. */
  readonly facts?: Readonly<Record<string, unknown>>;
}

/** A Tabular Data Package (Frictionless Data, version 1): datapackage.json and data.csv in one zip. */
export function writeDataPackage({ name, title, columns, rows, facts }: PackageContent): Uint8Array {
  const slug =
    name
      .toLowerCase()
      .replace(/[^a-z0-9._-]+/g, '-')
      .replace(/^-+|-+$/g, '') || 'recording';
  const writer = delimitedWriter(columns);
  const csv = [writer.heading(), ...rows.map((r) => writer.row(r.timeS, r.values))].join('\r\n');
  const [timeName, ...names] = writer.heading().split(',');
  const descriptor = {
    profile: 'tabular-data-package',
    name: slug,
    title,
    ...facts,
    resources: [
      {
        profile: 'tabular-data-resource',
        name: 'data',
        path: 'data.csv',
        format: 'csv',
        mediatype: 'text/csv',
        encoding: 'utf-8',
        schema: {
          missingValues: [''],
          fields: [
            { name: timeName, type: 'number', unit: 's' },
            ...columns.map((c, i) => ({
              name: names[i] ?? c.name,
              title: c.name,
              type: 'number',
              ...(c.unit ? { unit: c.unit } : {}),
            })),
          ],
        },
      },
    ],
  };
  return zipSync({
    'datapackage.json': strToU8(JSON.stringify(descriptor, null, 2)),
    'data.csv': strToU8(`${csv}\r\n`),
  });
}

/**
 * Reads a Tabular Data Package: its first resource.
 * @throws {RangeError} when the zip holds no datapackage.json or not the file that it names; a path out of the package is refused
 */
export function readDataPackage(bytes: Uint8Array) {
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter({ name, originalSize }) {
        if (originalSize > LARGEST)
          throw new RangeError(
            `${name} in the zip opens to ${originalSize} bytes; at most ${LARGEST} are read.`,
          );
        return true;
      },
    });
  } catch (error) {
    if (error instanceof RangeError) throw error;
    throw new RangeError('The file is no zip archive, so it is no data package.', { cause: error });
  }
  const described = files['datapackage.json'];
  if (!described) throw new RangeError('The zip holds no datapackage.json. Is it a data package?');
  let descriptor: { name?: string; title?: string; resources?: { path?: unknown }[] };
  try {
    descriptor = JSON.parse(strFromU8(described)) as typeof descriptor;
  } catch (error) {
    throw new RangeError('datapackage.json in the zip is no JSON.', { cause: error });
  }
  const path = descriptor.resources?.[0]?.path;
  if (typeof path !== 'string' || /(^\/|\.\.|\\|:)/.test(path))
    throw new RangeError(`The data package names no file of its own; received ${JSON.stringify(path)}.`);
  const data = files[path];
  if (!data) throw new RangeError(`The data package names ${path}, but the zip does not hold it.`);
  const plan = planDelimited(strFromU8(data.subarray(0, 20_000)));
  if (typeof plan === 'string') throw new RangeError(`${path}: ${plan}`);
  const sink = collectTable();
  const reader = delimitedReader(plan, sink);
  reader.push(data);
  reader.finish();
  return { name: descriptor.name ?? 'data', title: descriptor.title ?? '', descriptor, ...sink.found };
}
