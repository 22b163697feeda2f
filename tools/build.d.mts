/** Builds the web app and the server, unless what is built is newer than every source file. */
export function build(options?: { force?: boolean }): Promise<void>;

/** Bundles the server and its threads into a folder, which must lie below its packages. */
export function bundleServer(outdir: string): Promise<void>;
