import { Refused } from "@/api/client";
import type { Problem } from "@/api/types";

/** What is wrong with a row: the line of the file, the column, and why. */
export type Wrong = { line: number; column: string; words: string };

/** How far a table is: rows that were looked through or written. */
export type Progress = { doing: string; done: number; of: number };

/** A table that was looked through, and kept where it was to be. */
export type Looked = {
  rows: number;
  new: number;
  there: number;
  wrong: Wrong[];
  more_wrong: number;
  columns: string[];
  passed_over: string[];
  sample: string[][];
  written: boolean;
};

type Said = { progress?: Progress; found?: Looked; problem?: Problem };

const AWAY: Problem = {
  status: 0,
  code: "away",
  detail: "Elderberry does not answer just now. Nothing of this file was recorded: send it again.",
};

/** Sends a table, to be looked through or kept; tells how far it is as lines of JSON come back. */
export async function sendTable(
  what: string,
  file: Blob,
  keep: boolean,
  onProgress: (far: Progress) => void,
): Promise<Looked> {
  let found: Looked | undefined;
  for await (const said of lines(what, file, keep)) {
    if (said.problem) throw new Refused(said.problem);
    if (said.progress) onProgress(said.progress);
    found = said.found ?? found;
  }
  if (!found) throw new Refused(AWAY);
  return found;
}

async function* lines(what: string, file: Blob, keep: boolean): AsyncGenerator<Said> {
  let left = "";
  for await (const piece of pieces(what, file, keep)) {
    const parts = (left + piece).split("\n");
    left = parts.pop() ?? "";
    for (const part of parts) yield saidIn(part);
  }
}

function saidIn(line: string): Said {
  try {
    return JSON.parse(line);
  } catch {
    throw new Refused(AWAY);
  }
}

async function* pieces(what: string, file: Blob, keep: boolean): AsyncGenerator<string> {
  try {
    const answer = await fetch(`/api/keeping/${what}.csv?keep=${keep}`, {
      method: "POST",
      headers: { "Content-Type": "text/csv" },
      body: file,
    });
    if (!answer.ok || !answer.body) throw new Refused(await answer.json());
    const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
    for (let read = await reader.read(); !read.done; read = await reader.read()) yield read.value;
  } catch (error) {
    throw error instanceof Refused ? error : new Refused(AWAY);
  }
}
