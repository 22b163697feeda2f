import { expect, test } from './test.ts';
import type { Gadget, Trial, TrialsAnswer } from '@lucky-needle/core/model';
import { ask, DEMO } from './ask.ts';

// Runs as experiments on a simulated anvil whose blows are its own: nothing here is typed but labels and a reason.

test(
  'blows become trials while they are recorded, labelled by keyboard, one excluded, ranked as they are',
  { tag: '@slice' },
  async ({ page }) => {
    const { id } = await ask<Gadget>('/gadgets', 'POST', { template: 'impact-peak', name: 'Forge' });
    await ask(`/gadgets/${id}/link`, 'POST', { settings: { kind: 'simulated' }, mapping: null });
    await ask(`/gadgets/${id}/link`, 'PATCH', { condition: 'blows', speed: 2 });
    const trials = async (): Promise<Trial[]> => {
      // While it is being counted, it is only told how far that is.
      for (;;) {
        const answer = await ask<TrialsAnswer>(`/gadgets/${id}/trials`, 'POST', { rule: null });
        if ('trials' in answer) return answer.trials.filter((t) => !t.isOpen);
        await page.waitForTimeout(200);
      }
    };
    const rows = page.getByTestId('trial');

    await page.goto(`${DEMO}/g/${id}/runs`);
    await page.getByLabel('Name').fill('At the forge');
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    const next = page.getByRole('group', { name: 'Label for next trial' });
    await next.getByLabel('New label').fill('Oak');
    await next.getByLabel('New label').press('Enter');
    await expect.poll(() => rows.count(), { timeout: 40_000 }).toBeGreaterThan(1);
    // A second label takes the place of the first; from then on digits change it.
    await next.getByLabel('New label').fill('Iron');
    await next.getByLabel('New label').press('Enter');
    await next.getByLabel('New label').blur();
    await expect
      .poll(async () => (await trials()).filter((t) => t.label === 'Iron').length, { timeout: 40_000 })
      .toBeGreaterThan(1);
    await page.keyboard.press('1');
    await expect(next.getByRole('button', { name: /^Oak/ })).toHaveAttribute('aria-pressed', 'true');
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await expect(page.getByText(/^Stopped:/)).toBeVisible();

    const made = await trials();
    expect(made.length).toBeGreaterThan(3);
    await expect(rows).toHaveCount(made.length);
    // The newest stands first.
    const first = made.at(-1)!;
    await rows.first().getByRole('button', { name: 'Exclude' }).click();
    await page.getByLabel(`Reason for excluding trial ${first.number}`).fill('glancing blow');
    await page.keyboard.press('Enter');
    await expect(rows.first()).toContainText('Excluded: glancing blow');
    await expect(page.getByText(`${made.length - 1} of ${made.length} included.`)).toBeVisible();

    // What the page ranks first is what the numbers say.
    const counting = (await trials()).filter((t) => t.excluded === null);
    const meanOf = (label: string) => {
      const values = counting.filter((t) => t.label === label).map((t) => t.figures[0]!.value!);
      return values.reduce((a, b) => a + b, 0) / values.length;
    };
    const labels = [...new Set(counting.map((t) => t.label))].toSorted((a, b) => meanOf(b) - meanOf(a));
    const ranked = page.getByRole('region', { name: 'Ranking' }).getByRole('listitem');
    for (const [k, label] of labels.entries())
      await expect(ranked.nth(k)).toContainText(label || 'unlabelled');

    // Another rule is tried before it is kept.
    await page.getByRole('button', { name: 'Change rule' }).click();
    await page.getByLabel('One trial is').selectOption('run');
    await expect(page.getByText(`1 trial instead of ${made.length}`)).toBeVisible();
    // So is another level of the detector: above all blows none is left.
    await page.getByLabel('One trial is').selectOption('event');
    const level = page.getByRole('form', { name: 'Trial rule' }).getByLabel(/^Level/);
    await level.fill('99999');
    await expect(
      page.getByText(`0 trials instead of ${made.length}: 0 added, ${made.length} removed.`),
    ).toBeVisible();
    await level.fill('');
    await expect(page.getByText('must be a number')).toBeVisible();
    await page.getByRole('button', { name: 'Cancel' }).click();
    await expect(rows).toHaveCount(made.length);
    await page.getByRole('button', { name: 'Full-screen view' }).click();
    await expect(page.getByRole('dialog', { name: 'Full-screen results' })).toContainText(/trial \d/);
    await page.keyboard.press('Escape');

    // What is looked for is found by label, and by a figure above a number.
    const oak = (await trials()).filter((t) => t.label === 'Oak').length;
    await page.getByLabel('Find runs').fill('oak');
    await expect(rows).toHaveCount(oak);
    await page.getByLabel('Find runs').fill('last impact over 99999');
    await expect(page.getByText('0 of 1 run, 0 trials')).toBeVisible();
    await page.getByLabel('Clear search').click();
    await expect(rows).toHaveCount(made.length);
    // The best of each label are laid over each other before anybody chooses.
    const over = page.getByRole('region', { name: 'Trial overlay' });
    await expect(over.getByRole('listitem')).toHaveCount(labels.filter((l) => l !== '').length);
    await ask(`/gadgets/${id}`, 'DELETE');
  },
);
