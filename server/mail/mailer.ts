/** Mail out, over SMTP (RFC 5321): a few connections to a service, each message over one of them. */
import { type DomainWatch, watchDomains } from "#core/delivery/domains.ts";
import { LIMITS } from "#core/limits.ts";
import { Connection, type HandOver, readService, STANDARD_WAITS } from "./connection.ts";
import type { MailKeys } from "./keys.ts";
import { type Finished, finish, type Message } from "./message.ts";

export interface Mailer {
  /** Makes a message and hands it over. */
  send(message: Message): Promise<HandOver>;
  /**
   * Hands a finished message over once there is a place on the line. Then `may` is asked, and no content goes before
   * it has said yes: where it says no, nothing has gone, and null is given; where it says so at once, the line is
   * not touched.
   */
  carry(message: Finished, may: () => Promise<boolean> | false): Promise<HandOver | null>;
  /** How quickly messages go to each domain. */
  readonly domains: DomainWatch;
  /** Which of some messages the service has, by their Message-IDs; null where it cannot be asked. */
  readonly has: ((messageIds: readonly string[]) => Promise<ReadonlySet<string>>) | null;
  /** Ends connections; what is on the line is cut off. */
  close(): void;
}

/** How long a connection waits for another message, ms. */
const IDLE_MS = 5_000;

/** `keys` sign what goes; `address` is the service's; `has` asks it what it has, where it can be asked. */
export function createMailer(
  address: string,
  keys: MailKeys,
  waits = STANDARD_WAITS,
  has: Mailer["has"] = null,
): Mailer {
  const service = readService(address);
  const idle = new Map<Connection, NodeJS.Timeout>();
  const busy = new Set<Connection>();
  const waiting: (() => void)[] = [];
  let lines = 0;
  let closed = false;

  /** A place on the line, of as many as there may be. */
  async function place(): Promise<void> {
    if (lines < LIMITS.sendParallel) lines++;
    else await new Promise<void>((ok) => waiting.push(ok));
  }
  const leave = () => {
    const next = waiting.shift();
    if (next) next();
    else lines--;
  };

  function takeIdle(): Connection | null {
    for (const [connection, timer] of idle) {
      clearTimeout(timer);
      idle.delete(connection);
      if (connection.open) return connection;
    }
    return null;
  }
  function keep(connection: Connection): void {
    if (!connection.open) return;
    if (closed) {
      connection.quit();
      return;
    }
    const timer = setTimeout(() => {
      idle.delete(connection);
      connection.quit();
    }, IDLE_MS);
    idle.set(connection, timer.unref());
  }

  async function over(connection: Connection, message: Finished, may?: Promise<boolean>) {
    busy.add(connection);
    try {
      return await connection.send(message, may);
    } finally {
      busy.delete(connection);
      keep(connection);
    }
  }

  /** Takes a message over a connection that stands, else over a new one. */
  async function hand(message: Finished, may?: Promise<boolean>): Promise<HandOver> {
    const old = takeIdle();
    if (old) {
      const carried = old.taken > 0;
      const answer = await over(old, message, may);
      const ended = answer.state === "refused" && answer.verdict.kind === "connection";
      // Services end a connection after a while, or after so many messages: that says nothing about the next one.
      if (!ended || !carried || closed) return answer;
    }
    const opened = await Connection.open(service, waits);
    return opened instanceof Connection ? await over(opened, message, may) : opened;
  }

  return {
    domains: watchDomains(),
    has,
    async send(message) {
      const finished = finish(message, keys);
      await place();
      return hand(finished).finally(leave);
    },
    async carry(finished, may) {
      await place();
      try {
        const asked = may();
        if (!asked) return null;
        const [answer, yes] = await Promise.allSettled([hand(finished, asked), asked]);
        // An answer may come before the service waited for the content.
        if (yes.status === "rejected") throw yes.reason;
        if (answer.status === "rejected") throw answer.reason;
        return yes.value ? answer.value : null;
      } finally {
        leave();
      }
    },
    close() {
      closed = true;
      for (const [connection, timer] of idle) {
        clearTimeout(timer);
        connection.quit();
      }
      idle.clear();
      for (const connection of busy) connection.close();
    },
  };
}
