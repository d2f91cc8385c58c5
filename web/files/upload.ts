import type { Reply } from '@emporikon/contract';
import type { Problem } from '@emporikon/contract/common';
import { ApiProblem } from '../shell/api';
import { forgetAnswers } from '../shell/answers';

/** Where a file goes: a record, a task, or a file of which it is a newer version. */
export type Target =
  | { personId: string }
  | { companyId: string }
  | { leadId: string }
  | { dealId: string }
  | { projectId: string }
  | { caseId: string }
  | { taskId: string }
  | { fileId: string };

export type Place = Exclude<Target, { fileId: string }>;
type Added<To extends Target> = To extends Place
  ? Reply<'POST /api/files'>
  : Reply<'POST /api/files/:id/versions'>;

const UNREACHABLE: Problem = {
  type: 'urn:emporikon:problem:unreachable',
  title: 'Not reached',
  status: 0,
  detail: 'The connection broke off; the file was not kept. Try again in a moment.',
};

/**
 * Sends a file. What is sent is told as it goes, which `fetch` does not do.
 * @throws ApiProblem with the server's own words
 */
export function upload<To extends Target>(
  file: File,
  target: To,
  onSent: (bytes: number) => void,
): Promise<Added<To>> {
  const query = new URLSearchParams({ name: file.name.slice(-200) });
  if (!('fileId' in target)) for (const [key, value] of Object.entries(target)) query.set(key, value);
  const path = 'fileId' in target ? `/api/files/${target.fileId}/versions` : '/api/files';
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `${path}?${query}`);
    request.responseType = 'json';
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.setRequestHeader('idempotency-key', crypto.randomUUID());
    request.upload.onprogress = ({ loaded }) => onSent(loaded);
    request.onerror = () => reject(new ApiProblem(UNREACHABLE));
    request.onload = () => {
      forgetAnswers();
      if (request.status === 201) resolve(request.response as Added<To>);
      else reject(new ApiProblem((request.response as Problem | null) ?? UNREACHABLE));
    };
    request.send(file);
  });
}
