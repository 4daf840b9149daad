import { ApiProblem } from './client.ts';
import type { UploadedFile } from '@zusammen/core/api';

/**
 * Sends a file to be read. @param progress told the share that is sent, from 0 to 1
 * @throws ApiProblem with the server's words
 */
export function uploadFile(file: File, progress: (share: number) => void): Promise<UploadedFile> {
  // Only XMLHttpRequest tells how far a body has got.
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api/files?name=${encodeURIComponent(file.name)}`);
    request.upload.onprogress = ({ loaded, total }) => progress(total === 0 ? 1 : loaded / total);
    request.onerror = () =>
      reject(new ApiProblem(0, 'No connection', 'Zusammen can’t be reached. Check the connection and try again.'));
    request.onload = () => {
      let answer: unknown;
      try {
        answer = JSON.parse(request.responseText);
      } catch {
        answer = {};
      }
      if (request.status >= 200 && request.status < 300) resolve(answer as UploadedFile);
      else {
        const { title = 'Not read', detail = `The server answers ${request.status}.` } = answer as {
          title?: string;
          detail?: string;
        };
        reject(new ApiProblem(request.status, title, detail));
      }
    };
    request.send(file);
  });
}
