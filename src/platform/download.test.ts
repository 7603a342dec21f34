import { downloadResponse, jsonFile } from './download';

it('is a file under its name that no browser keeps, nor shows as a page', async () => {
  const made = { fileName: 'marks.csv', contentType: 'text/csv; charset=utf-8', body: 'a,b\r\n' };
  const { headers, text } = await (async () => {
    const response = downloadResponse(made);
    return { headers: response.headers, text: await response.text() };
  })();
  expect(text).toBe(made.body);
  expect(headers.get('content-type')).toBe(made.contentType);
  expect(headers.get('content-disposition')).toBe('attachment; filename="marks.csv"');
  expect(headers.get('cache-control')).toBe('no-store');
});

it('writes JSON that reads back the same', () => {
  const content = { at: '2027-03-14', names: ['Kern 40 › Linie 2'], none: null };
  const { body, contentType, fileName } = jsonFile('all.json', content);
  expect(JSON.parse(body)).toEqual(content);
  expect([contentType, fileName]).toEqual(['application/json; charset=utf-8', 'all.json']);
});
