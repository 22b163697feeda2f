import type { LineEdit, LineSpec } from '../model/line.ts';

/**
 * The line with the changes of a calibration made; the given line is untouched.
 * @throws {RangeError} when an edit names a stage that the line no longer has
 */
export function editLine(line: LineSpec, edits: readonly LineEdit[]): LineSpec {
  for (const edit of edits) {
    if (!line.stages.some((stage) => stage.id === edit.stageId)) {
      throw new RangeError(
        `The active calibration changes stage “${edit.stageId}”, which is no longer in the line. Calibrate again, or add the stage again.`,
      );
    }
  }
  return {
    ...line,
    stages: line.stages.map((stage) => {
      const edit = edits.find((e) => e.stageId === stage.id);
      if (!edit) return stage;
      if (edit.kind !== undefined && edit.kind !== stage.kind) {
        return { ...stage, kind: edit.kind, params: edit.params, uncertainty: {} };
      }
      return { ...stage, params: { ...stage.params, ...edit.params } };
    }),
  };
}
