import { sessionHeaders } from './api.ts';

/** What the server said of a file that was sent to it; the same shape as of any other request. */
export type UploadAnswer = { readonly data: unknown; readonly error?: undefined } | { readonly error: unknown };

/** Sends a file as a body of bytes and tells how much of it has gone; `fetch` cannot tell that. */
export function uploadFile(path: string, file: File, onShare: (share: number) => void): Promise<UploadAnswer> {
  return new Promise((resolve) => {
    const sending = new XMLHttpRequest();
    sending.open('POST', `/api/v1${path}`);
    const headers = {
      ...sessionHeaders(),
      'Content-Type': 'application/octet-stream',
      'Idempotency-Key': crypto.randomUUID(),
    };
    for (const [name, value] of Object.entries(headers)) sending.setRequestHeader(name, value);
    sending.responseType = 'json';
    sending.upload.onprogress = ({ loaded, total }) => onShare(total > 0 ? loaded / total : 0);
    sending.onload = () => {
      const isDone = sending.status >= 200 && sending.status < 300;
      resolve(isDone ? { data: sending.response } : { error: { status: sending.status, data: sending.response } });
    };
    sending.onerror = () => resolve({ error: { status: 'FETCH_ERROR', data: null } });
    sending.send(file);
  });
}
