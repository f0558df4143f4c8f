// Listens to the server and refreshes what changed.
import { useEffect } from "react";
import { useSWRConfig } from "swr";
import { ServerEvent } from "../../contract/events.ts";
import { listenTo } from "../web/one-line.ts";
import { setActing, setMatchProgress, setPlanProgress, setProgress } from "./progress.ts";

/** Which resources each kind of change touches, by the beginnings of their paths. */
const touched: Record<Exclude<ServerEvent["topic"], "progress" | "plan" | "match" | "acting">, string[]> = {
  parcels: ["/parcels", "/today", "/backup", "/settings", "/history", "/documents"],
  families: ["/families", "/today", "/board", "/parcels", "/history", "/documents", "/programs", "/bench", "/draws"],
  devices: ["/devices", "/history", "/families", "/today", "/plans", "/jobs", "/board", "/cells", "/programs", "/documents"],
  sightings: ["/board", "/cells", "/families", "/today", "/jobs", "/programs"],
  practice: ["/practice"],
  clearance: ["/bench", "/history", "/families", "/jobs", "/today", "/board", "/cells", "/plans"],
  jobs: ["/bench", "/history", "/jobs", "/families", "/today", "/plans"],
  pairing: ["/pairing"],
  library: ["/library", "/parcels", "/backup", "/today"],
  documents: ["/documents"],
  bench: ["/bench", "/history", "/jobs"],
  matches: ["/matches", "/history"],
};

/** `listens` is false on pages that are told nothing, such as those of paired devices. */
export function useServerEvents(listens: boolean): void {
  const { mutate } = useSWRConfig();
  useEffect(() => {
    if (!listens) return;
    const refresh = (beginnings: string[]) =>
      void mutate((key) => typeof key === "string" && beginnings.some((start) => key.startsWith(start)));
    return listenTo("/api/events", {
      // What happened while the line was down was not told.
      onOpen: (again) => again && refresh(["/"]),
      onEvent: (data) => {
        const event = ServerEvent.parse(JSON.parse(data));
        if (event.topic === "progress") setProgress(event.parcelId, event.progress);
        else if (event.topic === "plan") setPlanProgress(event.planId, event);
        else if (event.topic === "acting") setActing(event);
        else if (event.topic === "match") setMatchProgress(event.matchId, event);
        else refresh(touched[event.topic]);
      },
    });
  }, [mutate, listens]);
}
