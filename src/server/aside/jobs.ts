import { derive, type Work } from "../../core/ensemble";
import type { Cutting } from "../../core/formats";
import type { Rights, Sheet } from "../../core/score";
import {
  type Backup,
  backupPath,
  backupsOf,
  type Checked,
  checkBackup,
  database,
  databasePath,
  makeBackup,
  type Occasion,
  restoreFile,
  writing,
} from "../../db";
import { addTunes, type Incoming, takeCuttings } from "../collection";
import { drawRows } from "../draw";
import { download } from "../files";
import { chartPaper, partPaper } from "../papers";
import { sealed } from "../sealed";
import { recordRights } from "../states";

/** Work that can take long, by name: what the application runs beside itself. */
export const JOBS = {
  derive: (work: Work) => derive(work),
  chart: (stored: string) => sealed(chartPaper(stored)),
  part: (stored: string, part: string) => {
    const paper = partPaper(stored, part);
    return paper && sealed(paper);
  },
  draw: (sheets: readonly Sheet[], width: number) => drawRows(sheets, width),
  file: (work: Work, parts: string, format: string) => download(work, parts, format) ?? null,
  intake: (cuttings: readonly Cutting[], again: boolean) => takeCuttings(writing(), cuttings, again),
  add: (tune: Incoming, step: string, again: boolean) => addTunes(writing(), [tune], { again, step }),
  rights: (ids: readonly number[], rights: Rights, source: string | undefined) =>
    recordRights(writing(), ids, rights, source),
  backup: (occasion: Occasion) => {
    database();
    return makeBackup(databasePath(), occasion);
  },
  backups: (): (Backup & Checked)[] =>
    backupsOf(databasePath()).map((b) => ({ ...b, ...checkBackup(backupPath(databasePath(), b.name) ?? b.name) })),
  restore: (name: string) => restoreFile(databasePath(), name),
};
export type Jobs = typeof JOBS;
export type JobName = keyof Jobs;
