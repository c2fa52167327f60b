import { isRecord, remember, remembered } from '../device/remembered';

/** What was typed and not stored, on this device: Back, a reload or a dead phone lose nothing. */
export function draftOf(testId: string, of: string): Record<string, string> {
  const kept = remembered(`limpet-draft-${testId}-${of}`, isRecord) ?? {};
  return Object.fromEntries(
    Object.entries(kept).filter((pair): pair is [string, string] => typeof pair[1] === 'string'),
  );
}

export function keepDraft(testId: string, of: string, typed: Record<string, string>): void {
  const some = Object.values(typed).some((text) => text !== '');
  remember(`limpet-draft-${testId}-${of}`, some ? typed : null);
}
