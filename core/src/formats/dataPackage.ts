import { delimitedWriter } from './delimited.ts';
import type { TableColumn } from './tableSink.ts';

/** The file of a package that tells of the others. */
export const DESCRIPTOR_FILE = 'datapackage.json';
/** The table of packages that are written here. */
export const PACKAGE_TABLE_FILE = 'data.csv';

export interface PackageContent {
  readonly name: string;
  readonly title: string;
  readonly columns: readonly TableColumn[];
  /** Further facts: line, calibration version, place. */
  readonly facts?: Readonly<Record<string, unknown>>;
}

/**
 * The descriptor of a Tabular Data Package (Frictionless Data, version 1) of one table: what `delimitedWriter` makes of the
 * same columns.
 */
export function packageDescriptor({ name, title, columns, facts }: PackageContent): string {
  const slug =
    name
      .toLowerCase()
      .replace(/[^a-z0-9._]+/g, '-')
      .replace(/^-|-$/g, '') || 'recording';
  const [timeName, ...names] = delimitedWriter(columns).heading().split(',');
  const descriptor = {
    profile: 'tabular-data-package',
    name: slug,
    title,
    ...facts,
    resources: [
      {
        profile: 'tabular-data-resource',
        name: 'data',
        path: PACKAGE_TABLE_FILE,
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
  return JSON.stringify(descriptor, null, 2);
}

/**
 * The file in a Tabular Data Package that holds its first resource.
 * @throws {RangeError} when the descriptor is no JSON or names no file; a path out of the package is refused
 */
export function packageTablePath(descriptor: string): string {
  let path: unknown;
  try {
    path = (JSON.parse(descriptor) as { resources?: { path?: unknown }[] } | null)?.resources?.[0]?.path;
  } catch (error) {
    throw new RangeError(`${DESCRIPTOR_FILE} in the zip file is not valid JSON.`, { cause: error });
  }
  if (typeof path !== 'string' || /(^\/|\.\.|\\|:)/.test(path))
    throw new RangeError(
      `The data package does not contain the data file it names; received ${JSON.stringify(path)}.`,
    );
  return path;
}
