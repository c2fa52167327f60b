/** Felt through a pocket and a glove. */
const BUZZ_MS = [300, 150, 300];

/** Vibrates, where the device can and may. */
export function buzz(): void {
  navigator.vibrate?.(BUZZ_MS);
}

/** Says a sentence aloud, in the browser's own voice. */
export function speak(sentence: string): void {
  if (!('speechSynthesis' in window)) return;
  const voice = new SpeechSynthesisUtterance(sentence.replaceAll('\u00a0', ' '));
  voice.lang = 'en';
  window.speechSynthesis.cancel();
  window.speechSynthesis.speak(voice);
}
