import { createApp, ref } from 'vue';
import { ApiProblem } from './api';
import { useDraft } from './useDraft';

const app = createApp({});

/** A field of a record that the server holds, and that others write too. */
function makeField(stored = 'Buyer') {
  const record = { version: 1, jobTitle: stored, phone: '' };
  const shown = ref({ ...record });
  const failed: unknown[] = [];
  const saved: [string, number][] = [];
  const write = (patch: Partial<typeof record>): void =>
    void Object.assign(record, patch, { version: record.version + 1 });
  const draft = app.runWithContext(() =>
    useDraft({
      value: () => shown.value.jobTitle,
      version: () => shown.value.version,
      save: async (text, version) => {
        if (version !== record.version)
          throw new ApiProblem({
            type: 'urn:emporikon:problem:stale',
            title: '',
            status: 409,
            detail: 'Changed by somebody else.',
            current: { ...record },
          });
        saved.push([text, version]);
        write({ jobTitle: text });
      },
      theirs: (current) => current.jobTitle,
      fail: (error) => failed.push(error),
    }),
  );
  const refresh = (): void => void (shown.value = { ...record });
  const type = (text: string): void => {
    draft.begin();
    draft.text.value = text;
  };
  return { record, draft, failed, saved, write, refresh, type };
}

it('saves over the version it began from, and nothing when nothing was changed', async () => {
  const field = makeField();
  field.type('Owner ');
  await field.draft.keep();
  expect(field.saved).toEqual([['Owner', 1]]);
  field.refresh();
  field.draft.begin();
  await field.draft.keep();
  expect(field.saved).toHaveLength(1);
});

it('live updates that come while somebody types change neither the text nor the version', async () => {
  const field = makeField();
  field.type('Owner');
  field.write({ jobTitle: 'Director' });
  field.refresh();
  field.draft.begin();
  expect(field.draft.text.value).toBe('Owner');
  await field.draft.keep();
  expect([field.saved, field.draft.clash.value]).toEqual([[], { theirs: 'Director', version: 2 }]);
});

it('of two values the one that is chosen stays', async () => {
  for (const mine of [true, false]) {
    const field = makeField();
    field.type('Owner');
    field.write({ jobTitle: 'Director' });
    await field.draft.keep();
    if (mine) await field.draft.putMine();
    else field.draft.keepTheirs();
    expect([field.record.jobTitle, field.draft.clash.value]).toEqual([mine ? 'Owner' : 'Director', null]);
  }
});

it('a change of another field by somebody else is no clash', async () => {
  const field = makeField();
  field.type('Owner');
  field.write({ phone: '+44 7700 900123' });
  await field.draft.keep();
  expect([field.saved, field.draft.clash.value, field.record.phone]).toEqual([
    [['Owner', 2]],
    null,
    '+44 7700 900123',
  ]);
});

it('what the server refuses for another reason is told, and nothing is asked', async () => {
  const field = makeField();
  const refused = new ApiProblem({
    type: 'urn:emporikon:problem:invalid',
    title: '',
    status: 422,
    detail: 'Too long.',
  });
  const draft = app.runWithContext(() =>
    useDraft({
      value: () => 'Buyer',
      version: () => 1,
      save: () => Promise.reject(refused),
      theirs: () => null,
      fail: (error) => field.failed.push(error),
    }),
  );
  draft.begin();
  draft.text.value = 'x'.repeat(500);
  await draft.keep();
  expect([field.failed, draft.clash.value]).toEqual([[refused], null]);
  // What was typed stays, to be put right.
  expect([draft.isEditing.value, draft.text.value.length]).toEqual([true, 500]);
  draft.cancel();
  expect(draft.isEditing.value).toBe(false);
});

it('what is cancelled is not saved', async () => {
  const field = makeField();
  field.type('Owner');
  field.draft.cancel();
  await field.draft.keep();
  expect(field.saved).toEqual([]);
});
