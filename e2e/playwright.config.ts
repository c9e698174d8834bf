import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: ".",
  // a port for the server and one for its events process each
  workers: Math.ceil((process.env["OILWARD_E2E_PORTS"] ?? "").split(",").length / 2),
  // long, for a machine that has other work: only what fails waits so long
  timeout: 400_000,
  expect: { timeout: 30_000 },
  forbidOnly: true,
  outputDir: "test-results",
  use: {
    viewport: { width: 1280, height: 800 },
    screenshot: "only-on-failure",
    actionTimeout: 40_000,
    trace: "off",
    launchOptions: {
      executablePath: "/usr/bin/chromium-headless-shell",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
  projects: [
    { name: "journeys", testMatch: "*.spec.ts" },
    { name: "shots", testMatch: "shots.ts" },
    { name: "load", testMatch: "load.ts" },
    { name: "taps", testMatch: "taps.ts" },
  ],
});
