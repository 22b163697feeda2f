import { Pause, Play } from 'lucide-react';
import { useEffect, useState } from 'react';
import { printNumber } from '@lucky-needle/core/units';
import type { RunFace } from './useRunFace.ts';

/** The whole of a run is played in so long, s, or in its own time where that is shorter. */
const PLAYED_S = 30;

interface Props {
  readonly face: RunFace;
  /** When the run began, s on its own clock. */
  readonly beganS: number;
  readonly at: number;
  onAt(at: number): void;
}

/** Plays a run on the face, or goes to one of its moments. */
export function PlayBar({ face, beganS, at, onAt }: Props) {
  const [isPlaying, setPlaying] = useState(false);
  const frames = face.frames?.frames ?? [];
  const last = frames.length - 1;
  const lengthS = (frames[last]?.timeS ?? 0) - beganS;
  const stepMs = (1000 * Math.min(PLAYED_S, Math.max(lengthS, 1))) / Math.max(1, last);
  useEffect(() => {
    if (!isPlaying || last < 1) return;
    if (at >= last) return setPlaying(false);
    const timer = setTimeout(() => onAt(at + 1), stepMs);
    return () => clearTimeout(timer);
  }, [isPlaying, at, last, stepMs, onAt]);
  if (face.trouble !== null)
    return (
      <p role="alert" className="text-sm text-error">
        {face.trouble}
      </p>
    );
  if (!face.frames) return <p className="muted text-sm">Loading the run, {Math.round(100 * face.share)} %</p>;
  const seconds = (k: number) => printNumber((frames[k]?.timeS ?? 0) - beganS, lengthS < 100 ? 1 : 0);
  return (
    <div className="flex items-center gap-3">
      <button
        type="button"
        className="btn btn-sm"
        aria-label={isPlaying ? 'Pause' : 'Play'}
        onClick={() => {
          if (!isPlaying && at >= last) onAt(0);
          setPlaying(!isPlaying);
        }}
      >
        {isPlaying ? <Pause className="size-4" aria-hidden /> : <Play className="size-4" aria-hidden />}
      </button>
      <input
        type="range"
        className="range range-xs grow"
        aria-label="Playback position"
        aria-valuetext={`${seconds(at)} s of ${seconds(last)} s`}
        min={0}
        max={last}
        value={at}
        onChange={(e) => {
          setPlaying(false);
          onAt(Number(e.target.value));
        }}
      />
      <span className="num text-sm whitespace-nowrap">
        {seconds(at)} of {seconds(last)} s
      </span>
    </div>
  );
}
