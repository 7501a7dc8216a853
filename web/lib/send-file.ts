/** Sends a file as the plain body of a request, telling how many bytes are sent; answers what the server does. */
export function sendFile<T>(address: string, file: File, progress: (sent: number) => void): Promise<T> {
  return new Promise((resolve, reject) => {
    // fetch cannot tell how much has been sent.
    const request = new XMLHttpRequest();
    request.upload.onprogress = (event) => progress(event.loaded);
    request.onload = () => {
      let body: { error?: string } = {};
      try {
        body = JSON.parse(request.responseText) as typeof body;
      } catch {
        body = { error: `The server answered ${request.status}.` };
      }
      if (request.status < 300) resolve(body as T);
      else reject(new Error(body.error ?? `The server answered ${request.status}.`));
    };
    request.onerror = () => reject(new Error('The connection broke. Add the file again.'));
    request.open('POST', address);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.send(file);
  });
}
