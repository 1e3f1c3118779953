import { expect, grid, open, test, till } from './app';

test.use({ viewport: { width: 360, height: 740 }, hasTouch: true });

test('the index is at the lower edge, with the rest behind its last tab; all of it is large enough for a thumb', async ({
  page,
}) => {
  await open(page, '/today');
  const index = page.getByRole('navigation', { name: 'Screens' });
  await expect(index).toHaveCount(1);
  const box = await index.boundingBox();
  expect(Math.round(box!.y + box!.height)).toBe(740);
  await index.getByRole('link', { name: 'Week' }).tap();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Week');
  await index.getByRole('button', { name: /^More/ }).tap();
  const more = page.getByRole('dialog', { name: 'More screens' });
  for (const each of [...(await index.getByRole('link').all()), ...(await more.getByRole('link').all())])
    expect((await each.boundingBox())!.height).toBeGreaterThanOrEqual(44);
  await more.getByRole('link', { name: 'Clients' }).tap();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Clients');
  await expect(more).toHaveCount(0);
});

test('what runs is stopped and another begun in the Till; its line comes when it is wanted', async ({ page }) => {
  await open(page, '/today');
  const line = till(page).getByRole('combobox');
  await expect(line).toBeHidden();
  const write = till(page).getByRole('button', { name: 'Switch jobs, or write down time' });
  for (const button of [write, till(page).getByRole('button', { name: /(Start|Stop) the timer/ })]) {
    const { width, height } = (await button.boundingBox())!;
    expect(Math.min(width, height)).toBeGreaterThanOrEqual(44);
  }
  await write.tap();
  await line.fill('20m foyer lamps, foyer refresh');
  await line.press('Enter');
  await expect(line).toBeHidden();
  await expect(grid(page, /^Entries of/)).toContainText('foyer lamps');
  await expect(grid(page, /^Entries of/)).toContainText('0:20');
});

test('rows are of two lines: what was done over its figures', async ({ page }) => {
  await open(page, '/today');
  const row = grid(page, /^Entries of/)
    .getByRole('row')
    .nth(1);
  const note = (await row.getByRole('gridcell').nth(1).boundingBox())!;
  const worth = (await row.getByRole('gridcell').last().boundingBox())!;
  expect(note.width).toBeGreaterThan(260);
  expect(worth.y).toBeGreaterThanOrEqual(note.y + note.height - 1);
});

test('an expense is added with a photo of its receipt, turned upright and made smaller', async ({ page }) => {
  await open(page, '/costs/new/expense');
  // A photo as a camera has it: 3000 × 2000 as it lies, to be turned by a quarter (Exif orientation 6).
  const photo = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(3000, 2000);
    const context = canvas.getContext('2d')!;
    for (let at = 0; at < 4000; at++) {
      context.fillStyle = `hsl(${(at * 37) % 360} 80% 50%)`;
      context.fillRect((at * 71) % 3000, (at * 113) % 2000, 60, 40);
    }
    const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg', quality: 1 })).arrayBuffer());
    return btoa(bytes.reduce((text, byte) => text + String.fromCharCode(byte), ''));
  });
  const jpeg = Buffer.from(photo, 'base64');
  // TIFF 6.0, section 2, in an APP1 segment (Exif 2.3, 4.5.4): one entry, tag 0x0112, SHORT, 6.
  const exif = Buffer.from('ffe1002245786966000049492a00080000000100120103000100000006000000000000000000', 'hex');
  exif.writeUInt16BE(exif.length - 2, 2);
  const held = Buffer.concat([jpeg.subarray(0, 2), exif, jpeg.subarray(2)]);
  const input = page.getByLabel('Photograph it');
  await expect(input).toHaveAttribute('capture', 'environment');
  await input.setInputFiles({ name: 'IMG_0042.HEIC.jpg', mimeType: 'image/jpeg', buffer: held });
  const picture = page.getByRole('button', { name: /^Show the receipt IMG_0042/ });
  await expect(picture).toBeVisible();
  await picture.tap();
  const shown = page.getByRole('img', { name: /IMG_0042/ }).last();
  await expect(shown).toBeVisible();
  const size = await shown.evaluate(async (image: HTMLImageElement) => {
    await image.decode();
    return [image.naturalWidth, image.naturalHeight];
  });
  expect(size).toEqual([1333, 2000]);
  await expect(page.getByText(/^\d+ kB$|^1 MB$/)).toBeVisible();
  await page.getByLabel('Where').fill('Corner café');
  await page.getByLabel('What was bought').fill('Tea');
  await page.getByLabel(/^Amount, GBP/).fill('4.20');
  await page.getByRole('button', { name: 'Add the expense' }).tap();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Corner café');
  await expect(page.getByRole('button', { name: /^Show the receipt IMG_0042/ })).toBeVisible();
});
