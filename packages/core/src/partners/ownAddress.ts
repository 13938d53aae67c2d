/** The mailbox of an address however it is written: without case, and without what stands behind a plus, which arrives all the same (RFC 5233). */
function mailboxOf(address: string): string {
  const plain = address.normalize('NFKC').trim().toLowerCase();
  const at = plain.lastIndexOf('@');
  const [name = ''] = plain.slice(0, at).split('+');
  return `${name}${plain.slice(at)}`;
}

/** Whether two addresses are one person's: nobody earns by their own purchase, nor by another spelling of their own address. */
export const isSameMailbox = (one: string, other: string): boolean => mailboxOf(one) === mailboxOf(other);
