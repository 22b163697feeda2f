import { describe, expect, it } from 'vitest';
import { alarmTopic } from '../src/formats/index.ts';

describe('the topic of alarms', () => {
  it.each([
    ['mill/kiln', 'alarms/mill/kiln'],
    ['mill/+/blow', 'alarms/mill'],
    ['mill/kiln/#', 'alarms/mill/kiln'],
    ['kiln', 'alarms/kiln'],
    // The link would hear its own alarms.
    ['#', null],
    ['+/kiln', null],
    ['alarms/kiln', null],
  ])('beside %s is %s', (followed, topic) => {
    expect(alarmTopic(followed)).toBe(topic);
  });
});
