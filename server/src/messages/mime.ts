import MailComposer from 'nodemailer/lib/mail-composer/index.js';

export interface Envelope {
  readonly id: string;
  readonly toName: string;
  readonly toAddress: string;
  readonly subject: string;
  readonly body: string;
  readonly madeAt: Date;
}

/**
 * A message as it is handed over (RFC 5322, MIME): the same bytes for every try, with one Message-ID, so that whoever gets it
 * twice can tell.
 */
export function toMime(message: Envelope, from: string): Promise<Buffer> {
  const options = {
    from,
    to: { name: message.toName, address: message.toAddress },
    subject: message.subject,
    text: message.body,
    date: message.madeAt,
    messageId: `<${message.id}@${from.replace(/^.*@|>$/g, '')}>`,
    newline: 'windows',
    disableFileAccess: true,
    disableUrlAccess: true,
  };
  return new MailComposer(options).compile().build();
}
