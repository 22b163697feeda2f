import type { AlarmRule, FaceSpec } from '@lucky-needle/core/model';
import type { UnitId } from '@lucky-needle/core/units';

/** A face as it lay before alarms were the gadget's: one upward alarm for the channel in big figures. */
interface OldFaceSpec extends FaceSpec {
  readonly alarm: {
    readonly caution: number;
    readonly limit: number;
    readonly hysteresis: number;
    readonly minimumOnS: number;
  };
}

interface Asked {
  readonly id: string;
  readonly askId: string;
  readonly name: string;
}

/** The same alarm for each channel that the big figures can show, in the unit of what the channel is asked. */
export function moveAlarm(
  { alarm, ...face }: OldFaceSpec,
  channels: readonly Asked[],
  brief: { readonly asks: readonly { readonly id: string; readonly unit: UnitId }[] } | null,
): { face: FaceSpec; alarms: AlarmRule[] } {
  const unitOf = ({ askId }: Asked) => brief?.asks.find((a) => a.id === askId)?.unit ?? null;
  const [first] = channels;
  const watched =
    face.bigChannelId === 'highest'
      ? channels.filter((c) => unitOf(c) === unitOf(first!))
      : channels.filter((c) => c.id === face.bigChannelId);
  const alarms = watched.flatMap((channel): AlarmRule[] => {
    const unit = unitOf(channel);
    if (unit === null) return [];
    return [
      {
        id: `high-${channel.id}`.slice(0, 40),
        name: `${channel.name} high`.slice(0, 80),
        channelId: channel.id,
        figureId: null,
        kind: 'high',
        unit,
        caution: alarm.caution,
        limit: alarm.limit,
        from: null,
        to: null,
        hysteresis: alarm.hysteresis,
        windowS: 0,
        n: 1,
        m: 1,
        minimumOnS: alarm.minimumOnS,
        latch: false,
        lamp: 'red',
        sounder: 'beeps',
        why: 'Carried over from the earlier display settings.',
      },
    ];
  });
  return { face, alarms };
}
