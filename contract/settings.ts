// Choices made once for all.
import { z } from "zod";

export const Settings = z.object({
  /** Which file is taken when a style comes in both formats. */
  twinFormat: z.enum(["otf", "ttf"]).default("otf"),
});
export type Settings = z.infer<typeof Settings>;
export const SettingsChange = Settings.partial();
