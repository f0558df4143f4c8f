// What something cost a process to compute: how busy the machine is besides, and how fast it is, do not count.
import { readdirSync, readFileSync } from "node:fs";

/** Ticks a second in which Linux counts (proc(5); sysconf(_SC_CLK_TCK) is 100 on every Linux of today, from memory). */
const TICK_MS = 10;

/** A process's own fields after its name (proc(5), /proc/pid/stat); undefined once it is gone. */
function statOf(pid: number): string[] | undefined {
  try {
    return readFileSync(`/proc/${pid}/stat`, "latin1").split(") ").at(-1)!.split(" ");
  } catch {
    return undefined;
  }
}
/** A process and all that it started, directly or not, and that still live. */
export function treeOf(pid: number): number[] {
  const children = new Map<number, number[]>();
  for (const name of readdirSync("/proc")) {
    const fields = /^\d+$/.test(name) ? statOf(Number(name)) : undefined;
    if (!fields) continue;
    const parent = Number(fields[1]);
    children.set(parent, [...(children.get(parent) ?? []), Number(name)]);
  }
  const tree = [pid];
  for (const one of tree) tree.push(...(children.get(one) ?? []));
  return tree;
}
/**
 * What a process and all that it started have computed, in milliseconds (proc(5), "utime", "stime", and "cutime", "cstime" for those that
 * have ended): what else the machine does does not count.
 */
export function computedMs(pid: number): number {
  const ticks = treeOf(pid).flatMap((one) => statOf(one)?.slice(11, 15).map(Number) ?? []);
  return ticks.reduce((sum, one) => sum + one, 0) * TICK_MS;
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
