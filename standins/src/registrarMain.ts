import { readFileSync } from 'node:fs';
import { Registrar, servePage, serveRegistrar, type RegistrarWish } from './registrar.ts';

// Its lists, and what it holds already where it has kept nothing of its own yet. One line says where it listens.
const { REGISTRAR_LISTS: lists, REGISTRAR_FILE: file, REGISTRAR_TOKEN: token = '', REGISTRAR_CLOCK_OFFSET: offset = '0' } = process.env;
const given = lists === undefined ? {} : (JSON.parse(readFileSync(lists, 'utf8')) as Partial<RegistrarWish>);
const registrar = new Registrar({ ...given, token, file: file ?? null, now: () => Date.now() + Number(offset) });
const protocol = await serveRegistrar(registrar, Number(process.env.PORT ?? '0'));
const page = await servePage(registrar, Number(process.env.REGISTRAR_PAGE_PORT ?? '0'));
process.stdout.write(`registrar ${protocol.url} page ${page.url}\n`);
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    void Promise.all([protocol.stop(), page.stop()]).then(() => process.exit(0));
  });
