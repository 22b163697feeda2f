import { connect } from 'mqtt';
import type { LinkSource } from './source.ts';

const RETRY_MS = 2000;

/** Lines published under a topic. A broker that goes away is tried again until it is back. */
export function mqttSource(
  address: string,
  topic: string,
  text: (piece: string) => void,
  as: { readonly user: string; readonly password: string } | null = null,
): LinkSource {
  let problem: string | null = `Waiting for the broker at ${address}.`;
  const client = connect(address, {
    reconnectPeriod: RETRY_MS,
    connectTimeout: 5000,
    clean: true,
    ...(as && { username: as.user, password: as.password }),
  });
  client.on('connect', () => {
    client.subscribe(topic, { qos: 1 }, (error) => {
      problem = error ? `The broker refused the topic "${topic}": ${error.message}.` : null;
    });
  });
  client.on('message', (_topic, payload) => {
    // A message is a whole: one line, or several.
    const lines = payload.toString('utf8');
    text(lines.endsWith('\n') ? lines : `${lines}\n`);
  });
  client.on('close', () => (problem ??= `The broker at ${address} is not reached; trying again.`));
  client.on('error', (error) => (problem = `The broker at ${address} is not reached: ${error.message}.`));
  return {
    plugged: true,
    simulated: null,
    get problem() {
      return problem;
    },
    stop: () => void client.end(true),
  };
}
