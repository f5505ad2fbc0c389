import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from '@jest/globals';
import { type Place } from '@plain-relief/core/in-place';
import { Visit } from './visit.js';
import { PATIENCE } from './patience.js';

const visit = new Visit('in-place');
const { faults } = visit;
const PHOTOGRAPH = fileURLToPath(new URL('../demo/photographs/corridor.jpg', import.meta.url));

const button = (name: string | RegExp) => visit.page.getByRole('button', { name });
const saved = () => visit.page.locator('.state', { hasText: /^\s*Saved\s*$/u }).waitFor();
const places = async (job: string): Promise<{ title: string; document: Place }[]> =>
  (await visit.application.api<{ places: { title: string; document: Place }[] }>(`/jobs/${job}/places`)).body.places;

/** The first place of a job, once it is kept so. */
async function keptSo(job: string, isSo: (place: Place) => boolean): Promise<Place> {
  for (let tries = 0; ; tries++) {
    const [{ document }] = await places(job);
    if (isSo(document) || tries === 60) return document;
    await visit.page.waitForTimeout(200);
  }
}

describe('signs where they will hang', () => {
  let job: string;
  it('stand in a photograph at their size: marked, moved, lit, undone, and kept', async () => {
    const { page, application } = visit;
    const { body } = await application.api<{ jobs: { id: string; title: string }[] }>('/jobs');
    job = body.jobs.find(({ title }) => title.startsWith('Control panel'))!.id;
    await page.goto(`${application.url}/jobs/${job}/places`);
    await page.getByText('See the signs where they will hang').waitFor();
    await button('New place').first().click();
    await page.locator('polygon.sign').first().waitFor();
    await page.locator('input[type=file]').setInputFiles(PHOTOGRAPH);
    await page.locator('circle.handle').nth(3).waitFor();
    await saved();
    // The upper left corner by mouse, another one by keys.
    const box = (await page.locator('pr-place-stage svg').boundingBox())!;
    const handle = (await page.locator('circle.handle').first().boundingBox())!;
    await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + (503 / 1600) * box.width, box.y + (277.8 / 1200) * box.height, { steps: 4 });
    await page.mouse.up();
    await page.locator('circle.handle').nth(1).focus();
    await page.keyboard.press('Shift+ArrowLeft');
    await page.getByLabel('width of what is marked').fill('926 mm');
    await page.keyboard.press('Enter');
    const { ground } = await keptSo(
      job,
      (place) => place.ground.kind === 'photograph' && place.ground.scale.kind === 'corners' && place.ground.scale.width === 926,
    );
    if (ground.kind !== 'photograph' || ground.scale.kind !== 'corners') throw new Error('It has no corners.');
    expect([ground.width, ground.height, ground.scale.width]).toEqual([1600, 1200, 926]);
    expect(Math.abs(ground.scale.points[0].x - 503) + Math.abs(ground.scale.points[0].y - 277.8)).toBeLessThan(3);
    expect(ground.scale.points[1].x).toBe(1110);
    // The mouse’s drag is one edit of its name.
    await button(/^Undo: size of what is marked/u).click();
    await button(/^Undo: mark/u).click();
    await button(/^Undo: mark/u).click();
    const { ground: undone } = await keptSo(
      job,
      ({ ground }) => ground.kind === 'photograph' && ground.scale.kind === 'corners' && ground.scale.points[0].x === 480,
    );
    expect(undone).toMatchObject({ scale: { points: [{ x: 480, y: 360 }, {}, {}, {}] } });
    await page.locator('polygon.sign').first().focus();
    await page.keyboard.press('Shift+ArrowUp');
    await page.getByLabel('Side that light comes from').selectOption('90');
    const lit = await keptSo(job, ({ light }) => light.from === 90);
    // Ten times 1/16 in: the job is in inches.
    expect([lit.signs[0].y, lit.light.from]).toEqual([15.875, 90]);
  });

  it('are seen as large as they will be from where they are read', async () => {
    const { page } = visit;
    await button('From where it is read').click();
    await page.getByText(/Look at this from an arm’s length/u).waitFor();
    await page.getByLabel('metres that it is read from').fill('400');
    await page.keyboard.press('Enter');
    await page.getByText('nobody reads them').waitFor();
    await button('As it hangs').click();
    const [file] = await Promise.all([visit.page.waitForEvent('download'), button('Save the picture (PNG)').click()]);
    expect(file.suggestedFilename()).toBe('In-place.png');
  });

  it('go with a proof: the customer sees the photograph with the signs in it, and so does the sheet', async () => {
    const { page, application } = visit;
    await saved();
    await page.goto(`${application.url}/jobs/${job}/proofs`);
    await button(/^New proof/u).click();
    await page.getByLabel('To', { exact: true }).fill('desk@quillstreet.example.org');
    expect(await page.getByRole('group', { name: 'Show in place' }).getByRole('checkbox').isChecked()).toBe(true);
    const send = button(/^Freeze and send/u);
    await send.click();
    await page.getByRole('group', { name: 'Notes left open' }).or(page.getByText('waits for the customer')).first().waitFor();
    for (const box of await page.getByLabel(/I have seen/u).all()) await box.check();
    if (await send.isVisible()) await send.click();
    const { body } = await application.api<{ proofs: { address: string; sheets: { id: string; state: string }[] }[] }>(`/jobs/${job}/proofs`); // prettier-ignore
    const customer = await page.context().browser()!.newPage();
    await customer.goto(body.proofs[0].address);
    const hung = customer.getByRole('img', { name: 'The signs as they will hang: In place' });
    await hung.scrollIntoViewIfNeeded();
    await customer.waitForFunction(() => [...document.querySelectorAll<HTMLImageElement>('.hung img')].every((img) => img.naturalWidth > 0)); // prettier-ignore
    expect(await customer.locator('.hung img').count()).toBe(2);
    await customer.getByRole('link', { name: /Open the sheet/u }).waitFor({ timeout: PATIENCE });
    const sheet = await (await customer.request.get(`${body.proofs[0].address.replace('/proof/', '/api/proof-links/')}/sheet.pdf`)).body(); // prettier-ignore
    const { stdout } = spawnSync('pdftotext', ['-', '-'], { input: sheet, encoding: 'utf8' });
    expect(stdout).toContain('In place: In place');
    await customer.close();
    expect(faults).toEqual([]);
  });
});
