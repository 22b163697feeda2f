import { checkParams } from '../stage/checkParams.ts';
import { stageKind } from '../line/registry.ts';
import type { Calibration } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';

/**
 * Why a line cannot be read by a calibration: it has lost a stage that is changed, or a constant lies outside what its stage
 * allows, such as a lag of minus five milliseconds. Such a line is read as bought until it is trued up again.
 * @returns null where it can
 */
export function calibrationFault(line: LineSpec, { result }: Pick<Calibration, 'result'>): string | null {
  for (const edit of result.edits) {
    const stage = line.stages.find((s) => s.id === edit.stageId);
    if (!stage) return 'The line no longer has a stage that this calibration changes.';
    const kind = stageKind(edit.kind ?? stage.kind);
    if (!kind) return `Unknown stage type “${edit.kind ?? stage.kind}”.`;
    const isReplaced = edit.kind !== undefined && edit.kind !== stage.kind;
    try {
      checkParams(kind, isReplaced ? edit.params : { ...stage.params, ...edit.params });
    } catch (error) {
      if (error instanceof RangeError || error instanceof TypeError) return error.message;
      throw error;
    }
  }
  return null;
}
