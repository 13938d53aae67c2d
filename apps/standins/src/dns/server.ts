import dgram from 'node:dgram';
import dns, { type Answer, type RecordType } from 'dns-packet';
import type { LedgerFile } from '../ledger';

const TTL_SECONDS = 1;
const AUTHORITATIVE = 1 << 10;
const NO_SUCH_NAME = 3;

/** A name server that knows just what was entered by hand. It stands for the whole network's names. */
export function nameServer(ledger: LedgerFile): dgram.Socket {
  const socket = dgram.createSocket('udp4');
  socket.on('message', (message, from) => {
    let asked: dns.Packet;
    try {
      asked = dns.decode(message);
    } catch {
      // What is no question gets no answer.
      return;
    }
    const [question] = asked.questions ?? [];
    if (!question) return;
    const name = question.name.toLowerCase();
    const answers = answersTo(ledger, name, question.type);
    const isKnown = ledger.data.names.some((record) => record.name === name);
    const flags = AUTHORITATIVE | dns.RECURSION_DESIRED | dns.RECURSION_AVAILABLE | (isKnown ? 0 : NO_SUCH_NAME);
    socket.send(dns.encode({ type: 'response', id: asked.id ?? 0, flags, questions: [question], answers }), from.port, from.address);
  });
  return socket;
}

/** The entries of a name; one that is another name's is followed. */
function answersTo(ledger: LedgerFile, name: string, type: RecordType, depth = 0): Answer[] {
  const own = ledger.data.names.filter((record) => record.name === name);
  const alias = own.find((record) => record.type === 'CNAME');
  if (alias && type !== 'CNAME' && depth < 8) {
    return [{ type: 'CNAME', name, ttl: TTL_SECONDS, data: alias.value }, ...answersTo(ledger, alias.value.toLowerCase(), type, depth + 1)];
  }
  return own.flatMap((record): Answer[] => {
    if (record.type !== type) return [];
    return record.type === 'TXT'
      ? [{ type: 'TXT', name, ttl: TTL_SECONDS, data: record.value }]
      : [{ type: record.type, name, ttl: TTL_SECONDS, data: record.value }];
  });
}
