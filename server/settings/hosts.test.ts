import { openHouse, type Client, type House } from '../testing/harness';
import { openSite, type Site } from '../testing/site';

let house: House;
let site: Site;
let admin: Client;
let pell: Client;
beforeAll(async () => {
  house = await openHouse();
  await house.sequelize.query("UPDATE users SET role = 'admin' WHERE email LIKE 'mara%'");
  admin = await house.as('mara@wharfside.example');
  pell = await house.as('pell@wharfside.example');
  site = await openSite((_, response) => {
    response.writeHead(200, { 'content-type': 'text/html' }).end('<h1>Ines Duarte</h1>');
  });
});
afterAll(async () => {
  await house.close();
  await site.stop();
});

const fetchIt = async () =>
  (await pell.call('POST /api/captures/fetch', { body: { url: `http://${site.address}/` } })).status;
const allow = (host: string, who = admin) => who.call('POST /api/admin/hosts', { body: { host } });
const undo = (id: string | null, who = admin) =>
  who.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });

it('a server on a private address is reached once an admin allows it, and no longer when it is taken off the list', async () => {
  expect(await fetchIt()).toBe(422);
  const { status, body } = await allow(site.address.toUpperCase());
  expect([status, await fetchIt()]).toEqual([201, 201]);
  expect((await admin.call('GET /api/admin/hosts')).body).toMatchObject({ items: [{ host: site.address }] });
  const removed = await admin.call('DELETE /api/admin/hosts/:id', { params: { id: body.id } });
  expect([removed.status, await fetchIt()]).toEqual([200, 422]);
  expect((await undo(removed.body.eventId, pell)).status).toBe(403);
  expect([(await undo(removed.body.eventId)).status, await fetchIt()]).toEqual([200, 201]);
});

it('is for admins alone, each server once, and only as host and port', async () => {
  expect((await allow('10.0.0.5:993', pell)).status).toBe(403);
  expect((await pell.call('GET /api/admin/hosts')).status).toBe(403);
  expect((await allow('10.0.0.5:*')).status).toBe(201);
  expect((await allow('10.0.0.5:*')).status).toBe(409);
  for (const host of ['10.0.0.5', 'http://10.0.0.5:80', '*:*', '10.0.0.0/8:80', ':80', 'a b:1'])
    expect([host, (await allow(host)).status]).toEqual([host, 422]);
  expect((await allow('[fd00::5]:993')).status).toBe(201);
});
