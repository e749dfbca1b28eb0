import { createServer, type Server } from 'node:net';
import { afterEach, expect, it } from 'vitest';
import { mailerOf } from './mailer.ts';
import { toMime } from './mime.ts';

/** As much of a mail server as takes one message (RFC 5321), or refuses its recipient. */
async function mailServer(answer: '250' | '550'): Promise<{ port: number; taken: { to: string[]; data: string[] } }> {
  const taken = { to: [] as string[], data: [] as string[] };
  const server = createServer((socket) => {
    let isData = false;
    let buffer = '';
    socket.write('220 ready\r\n');
    socket.on('data', (bytes) => {
      buffer += bytes.toString('latin1');
      for (let end = buffer.indexOf('\r\n'); end >= 0; end = buffer.indexOf('\r\n')) {
        const line = buffer.slice(0, end);
        buffer = buffer.slice(end + 2);
        if (isData && line !== '.') taken.data.push(line.replace(/^\.\./, '.'));
        else if (isData || /^(EHLO|MAIL)/.test(line)) {
          isData = false;
          socket.write('250 ok\r\n');
        } else if (line.startsWith('RCPT')) {
          if (answer === '250') taken.to.push(line);
          socket.write(`${answer} recipient\r\n`);
        } else if (line === 'DATA') {
          isData = true;
          socket.write('354 go on\r\n');
        } else socket.end('221 bye\r\n');
      }
    });
  });
  servers.push(server);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return { port: (server.address() as { port: number }).port, taken };
}

const servers: Server[] = [];
afterEach(() => {
  for (const server of servers.splice(0)) server.close();
});

const MESSAGE = {
  id: '01900000-0000-7000-8000-000000000001',
  toName: 'Ada',
  toAddress: 'ada@example.org',
  subject: 'Hello',
  body: '.\n..\nBye',
  madeAt: new Date('2026-11-24T10:00:00Z'),
};
const handTo = async (port: number) => {
  const mailer = mailerOf(
    { smtpUrl: `smtp://127.0.0.1:${port}`, from: 'Ladder <ladder@test.example>' },
    // The stand-in alone looks at the database.
    undefined as never,
  );
  const raw = await toMime(MESSAGE, mailer.from);
  await mailer.hand(raw, MESSAGE.toAddress);
  return raw.toString('latin1');
};

it('hands a message over by SMTP as it was made, to its one recipient', async () => {
  const { port, taken } = await mailServer('250');
  const raw = await handTo(port);
  expect(taken.to).toEqual(['RCPT TO:<ada@example.org>']);
  expect(taken.data.join('\r\n').trimEnd()).toBe(raw.trimEnd());
});

it('tells where a mail server does not take it, or is not there', async () => {
  await expect(handTo((await mailServer('550')).port)).rejects.toThrow('550');
  await expect(handTo(1)).rejects.toThrow();
});
