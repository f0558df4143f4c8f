// What something cost a process to compute: how busy the machine is besides, and how fast it is, do not count.
import { readFileSync } from "node:fs";

/** Ticks a second in which Linux counts (proc(5); sysconf(_SC_CLK_TCK) is 100 on every Linux of today, from memory). */
const TICK_MS = 10;

/** What a process has computed with all its threads, in milliseconds (proc(5), "utime" and "stime"): what else the machine does does not count. */
export function computedMs(pid: number): number {
  const fields = readFileSync(`/proc/${pid}/stat`, "latin1").split(") ").at(-1)!.split(" ");
  return (Number(fields[11]) + Number(fields[12])) * TICK_MS;
}

/**
 * What the first thread of a process has computed, in milliseconds (Documentation/scheduler/sched-stats, "/proc/<pid>/schedstat": nanoseconds on
 * the processor). It alone answers requests; while it computes, others wait, however busy the machine is besides.
 */
export const ownThreadMs = (pid: number): number =>
  Number(readFileSync(`/proc/${pid}/task/${pid}/schedstat`, "latin1").split(" ")[0]) / 1e6;

/** What a fixed piece of work takes on the machine on which the bounds were set, in milliseconds (measured there, middle of ten). */
const USUAL_WORK_MS = 100;
function fixedWorkMs(): number {
  const begun = process.cpuUsage();
  let [sum, text] = [0, ""];
  for (let i = 0; i < 160_000; i++) {
    text = `${text.slice(-60)} ${i} may be used`;
    if (/may\s+(not\s+)?be (used|sold)$/.test(text)) sum += text.length;
  }
  const { user, system } = process.cpuUsage(begun);
  return sum === 0 ? 0 : (user + system) / 1000;
}
/** How much slower than that the machine is at this moment; never less than 1. The least of three: the first is spent on compiling it. */
const slowness = (): number => Math.max(1, Math.min(...Array.from({ length: 3 }, fixedWorkMs)) / USUAL_WORK_MS);
/** Whether something that took `ms` kept to a bound, allowing for a machine slower than the bound was set on. */
export const within = (ms: number, mostMs: number): boolean => ms <= mostMs || ms <= mostMs * slowness();

/** Measures what this process computes until it is asked: milliseconds, or those by the clock where they are fewer. */
export function effort(): () => number {
  const [begun, before] = [performance.now(), process.cpuUsage()];
  return () => {
    const { user, system } = process.cpuUsage(before);
    return Math.min(performance.now() - begun, (user + system) / 1000);
  };
}
