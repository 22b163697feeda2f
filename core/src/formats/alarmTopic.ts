const UNDER = 'alarms';

/**
 * The topic that a link's alarms are published under, beside the one that it follows: "alarms/mill/kiln" of "mill/kiln", up to
 * its first wild card. Null where the link would hear them itself.
 */
export function alarmTopic(followed: string): string | null {
  const levels = followed.split('/');
  const wild = levels.findIndex((level) => level === '+' || level === '#');
  const plain = wild < 0 ? levels : levels.slice(0, wild);
  return plain.length === 0 || plain[0] === UNDER ? null : [UNDER, ...plain].join('/');
}
