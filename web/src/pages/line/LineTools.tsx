import { Download, Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import { lineFromJson, lineToJson } from '@lucky-needle/core/line';
import type { Channel, LineSpec, LineVariant } from '@lucky-needle/core/model';
import { saveText } from '../../parts/saveText.ts';
import { counted } from '@lucky-needle/core/words';

interface Props {
  readonly channel: Channel;
  /** The line as it is being changed. */
  readonly line: LineSpec;
  readonly sampleRateHz: number;
  readonly saving: boolean;
  onLine(line: LineSpec): void;
  onVariants(variants: LineVariant[], done: string): void;
}

/** Variants of the line that are kept beside it, and the line as a file. */
export function LineTools({ channel, line, sampleRateHz, saving, onLine, onVariants }: Props) {
  const [name, setName] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const variants = channel.variants ?? [];
  const keep = () => {
    const others = variants.filter((v) => v.name !== name.trim());
    onVariants([...others, { name: name.trim(), line }], `Saved as “${name.trim()}”.`);
    setName('');
  };
  return (
    <details className="panel py-2 text-sm">
      <summary className="cursor-pointer">
        <span className="font-semibold">Variants and files</span>{' '}
        <span className="muted">
          {variants.length > 0 ? variants.map((v) => v.name).join(', ') : 'none saved'}
        </span>
      </summary>
      {variants.length > 0 && (
        <ul className="mt-2 divide-y divide-base-300">
          {variants.map((v) => (
            <li key={v.name} className="flex items-center gap-2 py-1">
              <span className="grow">{v.name}</span>
              <span className="num muted text-xs">{counted(v.line.stages.length, 'stage')}</span>
              <button type="button" className="btn btn-xs" onClick={() => onLine(v.line)}>
                Try
              </button>
              <button
                type="button"
                className="btn btn-ghost btn-xs"
                disabled={saving}
                aria-label={`Delete variant ${v.name}`}
                onClick={() =>
                  onVariants(
                    variants.filter((w) => w.name !== v.name),
                    `Variant “${v.name}” deleted.`,
                  )
                }
              >
                Delete
              </button>
            </li>
          ))}
        </ul>
      )}
      <form
        className="mt-2 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <input
          className="input input-sm grow"
          aria-label="Variant name"
          placeholder="e.g. slower average"
          maxLength={80}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button
          className="btn btn-sm"
          disabled={
            saving ||
            name.trim() === '' ||
            (variants.length >= 12 && !variants.some((v) => v.name === name.trim()))
          }
        >
          Save as variant
        </button>
      </form>
      <div className="mt-2 flex gap-2">
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => saveText(`${channel.id}-line.json`, 'application/json', lineToJson(line))}
        >
          <Download className="size-4" aria-hidden /> Export
        </button>
        <button type="button" className="btn btn-sm" onClick={() => file.current?.click()}>
          <Upload className="size-4" aria-hidden /> Import
        </button>
        <input
          ref={file}
          type="file"
          className="sr-only"
          tabIndex={-1}
          aria-label="Import a line"
          accept=".json,application/json"
          onChange={async (event) => {
            const chosen = event.target.files?.[0];
            event.target.value = '';
            if (!chosen) return;
            const found = lineFromJson(await chosen.text(), line, sampleRateHz);
            setFault(typeof found === 'string' ? found : null);
            if (typeof found !== 'string') onLine(found);
          }}
        />
      </div>
      {fault && (
        <p role="alert" className="mt-2 text-error">
          {fault}
        </p>
      )}
    </details>
  );
}
