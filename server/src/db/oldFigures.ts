import type { ParamValue, StageSpec } from '@lucky-needle/core/model';

/** Figures that put a reading right by other channels, before stages did. */
interface OldFigure {
  readonly id: string;
  readonly kind: string;
  readonly others: readonly string[];
  readonly params: Readonly<Record<string, ParamValue>>;
}

interface OldChannel {
  readonly id: string;
  readonly line: { readonly stages: readonly { readonly id: string }[] };
  readonly figures?: readonly OldFigure[];
  readonly shows?: string | null;
}

interface OldRule {
  readonly channelId: string;
  readonly figureId: string | null;
}

const MOVED = new Set(['less-others', 'by-surroundings']);
const listOf = (value: ParamValue | undefined) => (Array.isArray(value) ? value : []);

/** The same channels with stages in the place of such figures, and alarms that go by the reading itself. */
export function stagesForFigures<C extends OldChannel, R extends OldRule>(
  channels: readonly C[],
  alarms: readonly R[],
): { channels: C[]; alarms: R[]; isMoved: boolean } {
  const moved = (c: OldChannel | undefined) => (c?.figures ?? []).filter((f) => MOVED.has(f.kind));
  const isMoved = channels.some((c) => moved(c).length > 0);
  return {
    isMoved,
    channels: channels.map((channel) => {
      const old = moved(channel);
      if (old.length === 0) return channel;
      const stages = [...channel.line.stages];
      for (const stage of old.flatMap(stagesFor)) {
        let id = stage.kind;
        for (let n = 2; stages.some((s) => s.id === id); n++) id = `${stage.kind}-${n}`;
        stages.push({ id, ...stage } as (typeof stages)[number]);
      }
      return {
        ...channel,
        line: { ...channel.line, stages },
        figures: channel.figures!.filter((f) => !MOVED.has(f.kind)),
        shows: old.some((f) => f.id === channel.shows) ? null : (channel.shows ?? null),
      };
    }),
    alarms: alarms.map((rule) => {
      const old = moved(channels.find((c) => c.id === rule.channelId));
      return old.some((f) => f.id === rule.figureId) ? { ...rule, figureId: null } : rule;
    }),
  };
}

function stagesFor({ kind, others, params }: OldFigure): Omit<StageSpec, 'id'>[] {
  const { own = 1 } = params;
  const doubts = listOf(params['doubts']);
  if (kind === 'less-others') {
    const weights = listOf(params['weights']);
    const worth = [['own', doubts[0] ?? 0], ...weights.map((_, k) => [`weights.${k}`, doubts[k + 1] ?? 0])];
    return [
      {
        kind,
        params: { channels: others.join(' '), own, weights },
        uncertainty: Object.fromEntries(worth) as Record<string, number>,
        off: false,
      },
    ];
  }
  return others.map((channels, k) => ({
    kind,
    params: { channels, share: listOf(params['shares'])[k] ?? 0, at: listOf(params['at'])[k] ?? 0 },
    uncertainty: { share: doubts[k] ?? 0 },
    off: false,
  }));
}
