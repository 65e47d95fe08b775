/**
 * Which children are at work, in files beside the database: a server that was killed leaves them behind, and the next
 * one ends them. A number may be another process's by then: only one that began when ours did is ours.
 */
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { messageOf } from '$lib/core/message-of';

let folder: string | null = null;

/** When a process began, in clock ticks since the machine did (proc(5), `/proc/PID/stat`, field 22); `null`: there is none. */
function beganAt(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    // The name before it may hold anything, also spaces and brackets.
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
  } catch {
    // It is gone, or the system has no /proc: then no process is ended by its number.
    return null;
  }
}

/** Resident memory of a process, in bytes; 0 where it cannot be told. */
export function residentBytes(pid: number): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096;
  } catch {
    // As above.
    return 0;
  }
}

/** Ends what a former server left at work, and keeps the register in this data folder from now on. */
export function openRegister(dataFolder: string): void {
  folder = join(dataFolder, 'children');
  mkdirSync(folder, { recursive: true });
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    const pid = Number(name);
    if (Number.isInteger(pid) && pid > 1 && beganAt(pid) === readFileSync(path, 'utf8')) {
      try {
        process.kill(pid, 'SIGKILL');
      } catch (error) {
        console.error(`the process ${pid} of a former server could not be ended: ${messageOf(error)}`);
      }
    }
    rmSync(path, { force: true });
  }
}

export function noteChild(pid: number): void {
  const began = folder === null ? null : beganAt(pid);
  if (folder === null || began === null) return;
  try {
    writeFileSync(join(folder, String(pid)), began);
  } catch (error) {
    // With a full disk, work that writes nothing can still be done.
    console.error(`the process ${pid} could not be noted: ${messageOf(error)}`);
  }
}

export function forgetChild(pid: number): void {
  if (folder !== null) rmSync(join(folder, String(pid)), { force: true });
}
