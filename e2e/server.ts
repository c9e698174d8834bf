import { spawn, type ChildProcess } from "node:child_process";
import { test as base } from "@playwright/test";

function need(name: string): string {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is missing: run the journeys with ./ward test`);
  return value;
}

/** The real server, which a journey may kill and start again; each on a database of its own. */
export class Server {
  private process: ChildProcess | null = null;
  private readonly port: string;

  constructor(private readonly number: number) {
    this.port = need("OILWARD_E2E_PORTS").split(",")[number] ?? "";
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async start(): Promise<void> {
    const words = ["-m", "gunicorn", "config.wsgi:application", "--bind", `127.0.0.1:${this.port}`];
    words.push("--workers", "1", "--threads", "6", "--log-level", "warning");
    words.push("--no-control-socket", "--worker-tmp-dir", "/dev/shm");
    this.process = spawn(need("OILWARD_PYTHON"), words, {
      cwd: need("OILWARD_SERVER"),
      env: { ...process.env, OILWARD_DB_NAME: `${need("OILWARD_DB_NAME")}_${this.number}` },
      stdio: "inherit",
      detached: true, // a process group of its own, so that kill reaches the worker too
    });
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

  /** SIGKILL: no goodbye, nothing tidied up. */
  async kill(): Promise<void> {
    const running = this.process;
    if (!running?.pid || running.exitCode !== null) return;
    const gone = new Promise((resolve) => running.once("exit", resolve));
    process.kill(-running.pid, "SIGKILL");
    await gone;
    this.process = null;
  }
}

export const test = base.extend<object, { server: Server }>({
  baseURL: async ({ server }, use) => use(server.url),
  server: [
    // eslint-disable-next-line no-empty-pattern -- Playwright wants a destructured first argument
    async ({}, use, { parallelIndex }) => {
      const server = new Server(parallelIndex);
      await server.start();
      await use(server);
      await server.kill();
    },
    { scope: "worker", auto: true },
  ],
});

export { expect } from "@playwright/test";
