import { call } from './server';
import { account, DEFAULT_SERVER } from './store';

const server = document.getElementById('server') as HTMLInputElement;
const token = document.getElementById('token') as HTMLInputElement;
const said = document.getElementById('said') as HTMLElement;

void account().then((mine) => {
  server.value = mine?.server ?? DEFAULT_SERVER;
  token.value = mine?.token ?? '';
});

document.getElementById('form')?.addEventListener('submit', (event) => {
  event.preventDefault();
  const mine = { server: server.value.replace(/\/+$/, ''), token: token.value.trim() };
  call(mine, 'GET /api/session').then(
    async (me) => {
      await chrome.storage.local.set(mine);
      said.textContent = `Signed in as ${me.name}.`;
    },
    (error: Error) => (said.textContent = error.message),
  );
});
