import { addTime, expect, expectAxeClean, grid, open, row, test, workAs } from './app';

const DOCK = { latitude: 50.369, longitude: -4.1392, accuracy: 10 };
const HOME = { latitude: 50.4, longitude: -4.1393, accuracy: 10 };

test('a bound member records only from the places of a job, and is asked where they are only then', async ({
  page,
  context,
}) => {
  await open(page, '/setup/recording');
  const places = page.getByRole('region', { name: 'Places to record from' });
  await places.getByLabel('New place').fill('Saltmere docks');
  await places.getByLabel('Latitude, longitude').fill('somewhere');
  await places.getByRole('button', { name: 'Add the place' }).click();
  await expect(places).toContainText('Write a point as latitude and longitude');
  await places.getByLabel('Latitude, longitude').fill('50.3689, -4.1393');
  await places.getByRole('button', { name: 'Add the place' }).click();
  await expect(row(grid(page, 'Places to record from'), 'Saltmere docks')).toContainText('200 m');
  await expectAxeClean(page);
  await open(page, '/setup/people');
  const asha = page.getByRole('group', { name: 'Asha Quill' });
  await asha.getByRole('combobox', { name: 'Where they record from' }).click();
  await page.getByRole('option', { name: 'Only from the places' }).click();
  await expect(page.getByText('Member changed')).toBeVisible();
  // Imogen has no rule, and nobody asks her.
  await addTime(page, '0:15', 'Post', 'Winter season rig');

  await workAs(page, 'Asha Quill');
  await context.grantPermissions(['geolocation']);
  await context.setGeolocation(HOME);
  await open(page, '/today?add=1');
  const form = page.getByRole('form', { name: 'Add time' });
  await form.getByLabel('Length or from–to').fill('0:45');
  await form.getByLabel('What was done').fill('Cabling');
  await form.getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('Winter season rig');
  await page.keyboard.press('Enter');
  await form.getByRole('button', { name: /^Add/ }).click();
  await expect(form).toContainText('from Saltmere docks, and Winter season rig is recorded only from Saltmere docks');
  await expect(form.getByLabel('What was done')).toHaveValue('Cabling');
  await context.setGeolocation(DOCK);
  await form.getByRole('button', { name: /^Add/ }).click();
  await expect(row(grid(page, /^Entries of/), /Cabling/)).toContainText('0:45');

  // Who is only warned records from elsewhere, and their checker sees it.
  await workAs(page, 'Imogen Vale');
  await open(page, '/setup/people');
  await asha.getByRole('combobox', { name: 'Where they record from' }).click();
  await page.getByRole('option', { name: 'Elsewhere is noted' }).click();
  await workAs(page, 'Asha Quill');
  await context.setGeolocation(HOME);
  await addTime(page, '0:30', 'Notes at home', 'Winter season rig');
  await expect(page.getByText('Entry added, from elsewhere')).toBeVisible();
  await workAs(page, 'Imogen Vale');
  await open(page, '/team');
  await row(grid(page, 'Members'), 'Asha Quill').getByRole('link', { name: 'Asha Quill' }).click();
  await expect(row(grid(page, /^Asha Quill, Week/), /Notes at home/)).toContainText('recorded 3.3 km from');
});
