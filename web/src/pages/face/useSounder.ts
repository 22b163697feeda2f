import { useEffect } from 'react';

const PITCH_HZ = 880;
const BEEP_S = 0.15;
const BETWEEN_S = 0.6;

/** Sounds on this page as the gadget's sounder would: short beeps, or a steady tone. Null is quiet. */
export function useSounder(pattern: 'beeps' | 'steady' | null): void {
  useEffect(() => {
    if (pattern === null || typeof AudioContext === 'undefined') return;
    const audio = new AudioContext();
    const tone = audio.createOscillator();
    const volume = audio.createGain();
    tone.frequency.value = PITCH_HZ;
    volume.gain.value = pattern === 'steady' ? 0.1 : 0;
    tone.connect(volume).connect(audio.destination);
    tone.start();
    const beep = () => {
      volume.gain.setValueAtTime(0.1, audio.currentTime);
      volume.gain.setValueAtTime(0, audio.currentTime + BEEP_S);
    };
    const timer = pattern === 'beeps' ? setInterval(beep, 1000 * BETWEEN_S) : null;
    return () => {
      if (timer !== null) clearInterval(timer);
      void audio.close();
    };
  }, [pattern]);
}
