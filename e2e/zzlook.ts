// throwaway
import { chromium } from '@playwright/test';
import { CHROMIUM } from './chromium';
async function main() {
  const [path = '/intake', out = '/tmp/w/look.png', ...steps] = process.argv.slice(2);
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text()));
  page.on('pageerror', (e) => console.log('pageerror:', e.message));
  await page.goto('http://127.0.0.1:4170/');
  await page.getByLabel('Name').fill('keeper');
  await page.getByLabel('Password').fill('saltmarsh-keeper');
  await page.getByRole('button', { name: /sign in/i }).click();
  await page.waitForTimeout(800);
  await page.goto('http://127.0.0.1:4170' + path);
  await page.waitForTimeout(1500);
  for (const step of steps) {
    const [kind, ...rest] = step.split('=');
    const arg = rest.join('=');
    if (kind === 'key') await page.keyboard.press(arg);
    else if (kind === 'click') await page.locator(arg).first().click();
    else if (kind === 'name') await page.getByRole('button', { name: arg }).first().click();
    else if (kind === 'wait') await page.waitForTimeout(Number(arg));
    else if (kind === 'type') await page.keyboard.type(arg);
    else if (kind === 'shot') await page.screenshot({ path: arg });
    else if (kind === 'wheel') {
      await page.mouse.move(640, 350);
      await page.mouse.wheel(0, Number(arg));
    }
    await page.waitForTimeout(350);
  }
  await page.waitForTimeout(500);
  await page.screenshot({ path: out });
  await browser.close();
}
void main();
