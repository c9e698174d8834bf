import { spawn, type ChildProcess } from "node:child_process";
import { expect, test as base, type BrowserContext, type Page } from "@playwright/test";

function need(name: string): string {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is missing: run the journeys with ./ward test`);
  return value;
}

async function gone(running: ChildProcess | null): Promise<void> {
  if (!running?.pid || running.exitCode !== null) return;
  const exited = new Promise((resolve) => running.once("exit", resolve));
  process.kill(-running.pid, "SIGKILL");
  await exited;
}

/** The real server, which a journey may kill and start again; each on a database of its own. */
export class Server {
  private process: ChildProcess | null = null;
  private events: ChildProcess | null = null;
  private ahead: ChildProcess | null = null;
  private readonly port: string;
  private readonly eventsPort: string;

  constructor(private readonly number: number) {
    const ports = need("OILWARD_E2E_PORTS").split(",");
    this.port = ports[2 * number] ?? "";
    this.eventsPort = ports[2 * number + 1] ?? "";
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  private run(...words: string[]): ChildProcess {
    return spawn(need("OILWARD_PYTHON"), ["-m", ...words], {
      cwd: need("OILWARD_SERVER"),
      env: {
        ...process.env,
        OILWARD_DB_NAME: `${need("OILWARD_DB_NAME")}_${this.number}`,
        OILWARD_EVENTS_PORT: this.eventsPort,
      },
      stdio: "inherit",
      detached: true, // a process group of its own, so that kill reaches the worker too
    });
  }

  async start(): Promise<void> {
    const words = ["gunicorn", "config.wsgi:application", "--bind", `127.0.0.1:${this.port}`];
    words.push("--workers", "1", "--threads", "6", "--log-level", "warning");
    words.push("--no-control-socket", "--worker-tmp-dir", "/dev/shm");
    this.process = this.run(...words);
    const where = ["--host", "127.0.0.1", "--port", this.eventsPort, "--log-level", "warning"];
    this.events ??= this.run("uvicorn", "config.events:application", ...where);
    this.ahead ??= this.run("manage", "work");
    const until = Date.now() + 30_000;
    while (Date.now() < until) {
      try {
        await fetch(`${this.url}/api/session/`);
        return;
      } catch {
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    }
    throw new Error("the server did not come up");
  }

  /** SIGKILL: no goodbye, nothing tidied up. What tells the screens goes on. */
  async kill(): Promise<void> {
    await gone(this.process);
    this.process = null;
  }

  async end(): Promise<void> {
    await this.kill();
    await gone(this.events);
    await gone(this.ahead);
  }
}

/** For the hand of a test, which never taps twice (`twice.spec` does), nothing rests after a tap: what has just
 * moved under it would refuse a press that is meant. */
export async function nothingRests(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const set = Element.prototype.setAttribute;
    Element.prototype.setAttribute = function (name: string, value: string) {
      if (name !== "data-resting") set.call(this, name, value);
    };
  });
}

/** Nothing of a journey is left for the next: no page, no sign-in, nothing kept on the device. */
async function forget(context: BrowserContext, origin: string): Promise<void> {
  const [page, ...others] = context.pages();
  for (const open of others) await open.close();
  if (!page) return;
  await page.goto("about:blank");
  const chromium = await context.newCDPSession(page);
  await chromium.send("Storage.clearDataForOrigin", { origin, storageTypes: "all" });
  await context.clearCookies();
  await page.close();
}

interface Shared {
  server: Server;
  kept: BrowserContext;
}

export const test = base.extend<object, Shared>({
  page: async ({ page }, use) => {
    await nothingRests(page);
    await use(page);
  },
  baseURL: async ({ server }, use) => use(server.url),
  // one for all journeys of a worker, so that the program is read and compiled once
  kept: [
    async ({ browser, server }, use) => {
      const viewport = { width: 1280, height: 800 };
      const context = await browser.newContext({ viewport, baseURL: server.url });
      await use(context);
      await context.close();
    },
    { scope: "worker" },
  ],
  context: async ({ kept, server }, use) => {
    await use(kept);
    await forget(kept, server.url);
  },
  server: [
    // eslint-disable-next-line no-empty-pattern -- Playwright wants a destructured first argument
    async ({}, use, { parallelIndex }) => {
      const server = new Server(parallelIndex);
      await server.start();
      await use(server);
      await server.end();
    },
    { scope: "worker", auto: true },
  ],
});

export { expect };
