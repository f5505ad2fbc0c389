import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { Api, type ApiError } from './api';

describe('Api', () => {
  let api: Api;
  let server: HttpTestingController;
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    api = TestBed.inject(Api);
    server = TestBed.inject(HttpTestingController);
  });
  afterEach(() => server.verify());

  it('puts parameters into the address and says only what of the query is given', async () => {
    const asked = api.ask('GET /signs/:id/clearance', { params: { id: 'a/b' }, query: { option: undefined } });
    const clearance = { isCleared: true, reason: '', changes: [] };
    server.expectOne({ method: 'GET', url: '/api/signs/a%2Fb/clearance' }).flush(clearance);
    expect(await asked).toEqual(clearance);
    void api.ask('GET /signs/:id/clearance', { params: { id: 's' }, query: { option: 'oak' } });
    server.expectOne(({ urlWithParams }) => urlWithParams === '/api/signs/s/clearance?option=oak');
  });

  it('sends a body where there is one, an empty one where something is done without, and none to read or remove', () => {
    void api.ask('PATCH /jobs/:id', { params: { id: 'j' }, body: { quantity: 2 } });
    expect(server.expectOne('/api/jobs/j').request.body).toEqual({ quantity: 2 });
    void api.ask('POST /tasks/:id/cancel', { params: { id: 't' } });
    expect(server.expectOne('/api/tasks/t/cancel').request.body).toEqual({});
    void api.ask('DELETE /session');
    expect(server.expectOne({ method: 'DELETE', url: '/api/session' }).request.body).toBeNull();
  });

  it('sends a file as a form, under its name', () => {
    void api.upload('POST /jobs/:id/files', new Blob(['<svg/>']), 'Crozier é.svg', { params: { id: 'j' } });
    const { body } = server.expectOne({ method: 'POST', url: '/api/jobs/j/files' }).request as { body: FormData };
    expect((body.get('file') as File).name).toBe('Crozier é.svg');
  });

  it.each([
    [409, { code: 'STALE', message: 'It was saved elsewhere.' }, 'It was saved elsewhere.', false],
    [503, { code: 'DATABASE_AWAY', message: 'The database does not answer.' }, 'The database does not answer.', true],
    [502, null, 'The server answered 502.', true],
  ])('gives a refusal of %i with its sentence', async (status, body, message, isPassing) => {
    const asked = api.ask('GET /jobs').catch((error: ApiError) => error);
    server.expectOne('/api/jobs').flush(body, { status, statusText: 'x' });
    expect(await asked).toMatchObject({ status, message, isPassing, body });
  });
});
