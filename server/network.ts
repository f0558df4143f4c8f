// What answers on the network: a second application on an address of its own, shut by default. It serves the interface's files and a
// paired device's own work, and knows nothing else of the API.
import type { AddressInfo } from "node:net";
import { createServer, type Server } from "node:http";
import { networkInterfaces } from "node:os";
import express, { type Express } from "express";
import { nothingHere, problems } from "./routes/answer.ts";
import { onlyFrom, strictHeaders } from "./routes/guard.ts";
import { serveInterface } from "./routes/interface.ts";
import { mineRoutes } from "./routes/pairing.ts";
import type { NetworkListener } from "./services/pairing/pairing.ts";
import type { Services } from "./services/services.ts";

const LOOPBACK = "127.0.0.1";

/** This machine's addresses on its networks, or loopback alone when it is on none. */
function ownAddresses(): string[] {
  const all = Object.values(networkInterfaces()).flatMap((list) => list ?? []);
  const outside = all.filter((one) => !one.internal && one.family === "IPv4").map((one) => one.address);
  return outside.length > 0 ? outside : [LOOPBACK];
}

export function makeNetworkApp(
  webDir: string | undefined,
  services: Pick<Services, "pairing" | "renewal">,
  hosts: () => readonly string[],
): Express {
  const app = express();
  app.disable("x-powered-by");
  app.use(strictHeaders, onlyFrom(hosts));
  app.use("/api", mineRoutes(services));
  app.get("/", (_request, response) => response.redirect("/mine"));
  serveInterface(app, webDir, /^\/mine$/);
  app.use(nothingHere);
  app.use(problems());
  return app;
}

export class ServerListener implements NetworkListener {
  private readonly port: number;
  /** Makes the application that answers, for requests under the addresses `hosts` gives. */
  private readonly makeApp: (hosts: () => readonly string[]) => Express;
  private server: Server | undefined;
  private trouble: ReturnType<NetworkListener["problem"]> = null;
  constructor(port: number, makeApp: (hosts: () => readonly string[]) => Express) {
    this.port = port;
    this.makeApp = makeApp;
  }

  private at(addresses: readonly string[]): string[] {
    const { port } = this.server?.address() as AddressInfo;
    return addresses.map((address) => `${address}:${port}`);
  }
  addresses(): string[] {
    return this.server ? this.at(ownAddresses()).map((host) => `http://${host}`) : [];
  }
  problem(): ReturnType<NetworkListener["problem"]> {
    return this.trouble;
  }

  async set(open: boolean): Promise<void> {
    this.trouble = null;
    if (!open) return this.close();
    if (this.server) return;
    const server = createServer(this.makeApp(() => this.at([...ownAddresses(), LOOPBACK])));
    try {
      await new Promise<void>((resolve, reject) => {
        server.once("error", reject);
        server.listen(this.port, "0.0.0.0", resolve);
      });
      this.server = server;
    } catch (error) {
      const taken = (error as NodeJS.ErrnoException).code === "EADDRINUSE";
      this.trouble = {
        code: "network-port",
        message: taken ? `Another program uses port ${this.port}.` : "Buvano could not be opened to the network.",
        next: taken ? "Set BUVANO_NETWORK_PORT to a free one and start Buvano again." : "Check this computer's network, then try again.",
      };
    }
  }
  async close(): Promise<void> {
    const { server } = this;
    if (!server) return;
    this.server = undefined;
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
  }
}
