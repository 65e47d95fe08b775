import { defineConfig } from '@playwright/test';

/** Waits end where the state they wait for is there: these only end what hangs, also on a machine with much else to do. */
export default defineConfig({
  testDir: 'e2e',
  timeout: 900_000,
  expect: { timeout: 60_000 },
  workers: 1,
  fullyParallel: false,
  retries: 0,
  reporter: [['list'], ['json']],
  use: {
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--autoplay-policy=no-user-gesture-required',
        '--disable-background-networking',
        '--disable-component-update'
      ]
    }
  }
});
