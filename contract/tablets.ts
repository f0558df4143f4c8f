// Bringing a family to a tablet by a configuration profile.
import { z } from "zod";

export const TabletView = z.object({
  familyId: z.number().int(),
  familyName: z.string(),
  fileName: z.string(),
  bytes: z.number().int(),
  /** What the profile holds, and why other styles are left out. */
  fonts: z.array(z.object({ name: z.string(), fileName: z.string() })),
  left: z.array(z.object({ name: z.string(), reason: z.string() })),
  warnings: z.array(z.string()),
  /** In the tablet's own order. */
  steps: z.array(z.string()),
  removal: z.array(z.string()),
});
export type TabletView = z.infer<typeof TabletView>;
