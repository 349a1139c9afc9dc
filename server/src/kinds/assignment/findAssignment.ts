import type { AssignmentSetting, Judged } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { type Db, maybe } from '../../platform/database.ts';

interface AssignmentRow {
  instructions: DocumentNode;
  accepts_text: boolean;
  accepts_link: boolean;
  accepts_recording: boolean;
  on_paper: boolean;
  judged: Judged;
  accepts_files: boolean;
  file_types: string[];
  most_files: number;
  most_bytes: string;
  attempts_allowed: number | null;
  rubric_id: string | null;
  counted: AssignmentSetting['counted'];
  group_set_id: string | null;
  allows_withdrawal: boolean;
  anonymous: AssignmentSetting['anonymous'];
  anonymous_until: Date | null;
  markers: 1 | 2;
  version: number;
}

export async function findAssignment(db: Db, itemId: string): Promise<(AssignmentSetting & { rubricId: string | null }) | null> {
  const row = await maybe<AssignmentRow>(
    db,
    'select instructions, accepts_text, accepts_files, accepts_link, accepts_recording, on_paper, judged, file_types, most_files, most_bytes, attempts_allowed, rubric_id, counted, group_set_id, allows_withdrawal, anonymous, anonymous_until, markers, version from assignment where item_id = $1',
    [itemId],
  );
  return row === null
    ? null
    : {
        version: row.version,
        instructions: row.instructions,
        acceptsText: row.accepts_text,
        acceptsFiles: row.accepts_files,
        acceptsLink: row.accepts_link,
        acceptsRecording: row.accepts_recording,
        onPaper: row.on_paper,
        judged: row.judged,
        fileTypes: row.file_types,
        mostFiles: row.most_files,
        mostBytes: Number(row.most_bytes),
        attemptsAllowed: row.attempts_allowed,
        rubricId: row.rubric_id,
        counted: row.counted,
        groupSetId: row.group_set_id,
        allowsWithdrawal: row.allows_withdrawal,
        anonymous: row.anonymous,
        anonymousUntil: row.anonymous_until?.toISOString() ?? null,
        markers: row.markers,
      };
}
