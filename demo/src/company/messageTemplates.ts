import type { BookTemplate } from '@ladder/contract';

const template = (
  place: number,
  name: string,
  toField: string | null,
  subject: string,
  body: string,
): BookTemplate => ({ id: `01900000-0000-7000-8000-00000007000${place}`, name, toField, subject, body });

/** What Hollin & Marsh write again and again. */
export const MESSAGE_TEMPLATES = [
  template(
    1,
    'Contract is on its way',
    'contact_email',
    'Our contract for {deal.name}',
    'Dear {contact.name},\n\nour contract for {deal.name} is on its way to you. The price is {deal.value}, as agreed.\n\nAny question, ring me.\n\n{owner.name}\nHollin & Marsh Glasshouses',
  ),
  template(
    2,
    'Thanks for the visit',
    'contact_email',
    'Thank you for having us',
    'Dear {contact.name},\n\nthank you for showing us round at {customer.name}. You hear from us within the week.\n\n{owner.name}\nHollin & Marsh Glasshouses',
  ),
  template(3, 'Note to the owner', null, 'About {deal.name}', 'Please look at {deal.name} of {customer.name}.'),
] as const;
