// Pairing devices on the network, and what a paired device may know and say.
import { z } from "zod";
import { nameOf } from "./names.ts";
import { DeviceKind } from "./devices.ts";

/** As the person sees it who invites a device. */
export const PairingView = z.object({
  network: z.boolean(),
  /** Addresses other devices can open, the likeliest first; empty while the network is shut. */
  addresses: z.array(z.string()),
  /** The code to type there; null while nobody is invited. */
  code: z.string().nullable(),
  expiresAt: z.iso.datetime().nullable(),
  /** The device that used the code. */
  paired: z.string().nullable(),
  /** Why the network cannot be opened; null when it can. */
  problem: z.object({ code: z.string(), message: z.string(), next: z.string() }).nullable(),
  devices: z.array(
    z.object({ id: z.number().int(), name: z.string(), kind: DeviceKind, pairedAt: z.iso.datetime(), seenAt: z.iso.datetime() }),
  ),
});
export type PairingView = z.infer<typeof PairingView>;

export const PairRequest = z.object({
  code: z
    .string()
    .max(20)
    .refine((code) => code.replace(/\D/g, "").length === 6, "The code has six figures."),
  name: nameOf(60),
  kind: DeviceKind,
});
export type PairRequest = z.infer<typeof PairRequest>;

export const MyStyle = z.object({
  sha256: z.string(),
  name: z.string(),
  family: z.string(),
  postScriptName: z.string(),
  fileName: z.string(),
  bytes: z.number().int(),
  rightToLeft: z.boolean(),
  /** Characters of its own to draw, for fonts without Latin letters. */
  sample: z.string(),
  answer: z.enum(["there", "not-there", "cannot-tell", "unasked"]),
  answeredAt: z.iso.datetime().nullable(),
});
export type MyStyle = z.infer<typeof MyStyle>;

/** What a paired device is told of itself: what is wanted on it, and nothing else. */
export const MyDevice = z.object({
  name: z.string(),
  kind: DeviceKind,
  styles: z.array(MyStyle),
  /** For tablets and phones: profiles to fetch. */
  profiles: z.array(z.object({ subject: z.string(), name: z.string(), styles: z.number().int() })),
  /** To be taken off there, by name. */
  remove: z.array(z.string()),
  steps: z.array(z.string()),
});
export type MyDevice = z.infer<typeof MyDevice>;

/** What the device found out for itself, style by style. */
export const MyAnswers = z.object({
  answers: z
    .array(z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/), answer: z.enum(["there", "not-there", "cannot-tell"]) }))
    .max(500),
});
export type MyAnswers = z.infer<typeof MyAnswers>;
