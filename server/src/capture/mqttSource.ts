import { alarmTopic } from '@lucky-needle/core/formats';
import { connect } from 'mqtt';
import type { LinkSource } from './source.ts';

const RETRY_MS = 2000;
/** Alarms are told so often at the most: of one that comes and goes all the time its newest state. */
const TELL_MS = 100;

/** Lines published under a topic, and alarms told under another. A broker that goes away is tried again until it is back. */
export function mqttSource(
  address: string,
  topic: string,
  text: (piece: string) => void,
  as: { readonly user: string; readonly password: string } | null = null,
): LinkSource {
  let problem: string | null = `Connecting to the broker at ${address}…`;
  const client = connect(address, {
    reconnectPeriod: RETRY_MS,
    connectTimeout: 5000,
    clean: true,
    ...(as && { username: as.user, password: as.password }),
  });
  client.on('connect', () => {
    client.subscribe(topic, { qos: 1 }, (error) => {
      problem = error ? `The broker rejected the topic "${topic}": ${error.message}.` : null;
    });
  });
  client.on('message', (_topic, payload) => {
    // A message is a whole: one line, or several.
    const lines = payload.toString('utf8');
    text(lines.endsWith('\n') ? lines : `${lines}\n`);
  });
  client.on('close', () => (problem ??= `Cannot reach the broker at ${address}. Trying again.`));
  client.on('error', (error) => (problem = `Cannot reach the broker at ${address}: ${error.message}.`));
  const alarms = alarmTopic(topic);
  const untold = new Map<string, string>();
  let timer: NodeJS.Timeout | null = null;
  const tell = () => {
    timer = null;
    // What cannot be told now is told once the broker is back.
    for (const text of untold.values()) client.publish(alarms!, text, { qos: 1 });
    untold.clear();
  };
  return {
    plugged: true,
    simulated: null,
    ...(alarms !== null && {
      tellAlarm(ruleId: string, told: string) {
        untold.set(ruleId, told);
        timer ??= setTimeout(tell, TELL_MS);
      },
    }),
    get problem() {
      return problem;
    },
    stop() {
      if (timer) clearTimeout(timer);
      client.end(true);
    },
  };
}
