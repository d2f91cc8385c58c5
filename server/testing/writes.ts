import type { Kept } from './families';

/** Every way to write that names a record, with all it needs to succeed. */
export function* writesTo({ kind, id }: Kept, openPerson: string): Generator<[string, string, object?]> {
  const dueAt = '2026-12-02T09:00:00Z';
  if (kind === 'people') {
    yield ['PATCH', `/api/people/${id}`, { version: 2, fullName: 'Taken Over' }];
    yield ['POST', `/api/people/${id}/contacts`, { kind: 'email', value: 'taken@over.example' }];
    yield ['POST', `/api/people/${id}/employments`, { companyName: 'Taken Over Ltd', jobTitle: 'Buyer' }];
    yield ['POST', '/api/leads', { title: 'Taken over', personId: id }];
    yield ['POST', '/api/tasks', { title: 'Taken over', dueAt, personId: id }];
    yield ['POST', '/api/ledger', { line: 'note: taken over', about: { personId: id } }];
    yield ['POST', '/api/signals', { personId: id, kind: 'visited', words: 'taken over' }];
    yield ['POST', `/api/triage/${id}`, { as: 'prospect' }];
    yield ['POST', '/api/merges', { kind: 'person', survivorId: openPerson, mergedIds: [id] }];
  }
  if (kind === 'companies') {
    yield ['PATCH', `/api/companies/${id}`, { version: 2, name: 'Taken Over' }];
    yield ['POST', '/api/people', { fullName: 'Taken Over', companyId: id }];
    yield ['POST', '/api/deals', { title: 'Taken over', companyId: id }];
    yield ['POST', '/api/ledger', { line: 'note: taken over', about: { companyId: id } }];
  }
  if (kind === 'leads') {
    yield ['PATCH', `/api/leads/${id}`, { version: 1, status: 'working' }];
    yield ['POST', `/api/leads/${id}/conversion`, {}];
    yield ['POST', '/api/tasks', { title: 'Taken over', dueAt, leadId: id }];
  }
  if (kind === 'deals') {
    yield ['PATCH', `/api/deals/${id}`, { version: 2, title: 'Taken over' }];
    yield ['PUT', `/api/deals/${id}/people`, { people: [] }];
    yield ['PUT', `/api/deals/${id}/lines`, { version: 2, lines: [] }];
    yield ['POST', `/api/deals/${id}/quotes`, {}];
    yield ['POST', '/api/tasks', { title: 'Taken over', dueAt, dealId: id }];
  }
  if (kind === 'tasks') yield ['PATCH', `/api/tasks/${id}`, { done: true }];
  if (kind === 'captures') {
    yield ['POST', `/api/captures/${id}/filing`, { person: 'new', as: 'person' }];
    yield ['POST', `/api/captures/${id}/set-aside`];
    yield ['POST', '/api/captures/set-aside', { ids: [id] }];
    yield ['POST', '/api/captures/bring-back', { ids: [id] }];
    yield ['POST', `/api/captures/${id}/claims`, { field: 'note', value: 'taken over' }];
  }
  yield ['PUT', `/api/visibility/${kind}/${id}`, { visibility: 'everybody' }];
}
