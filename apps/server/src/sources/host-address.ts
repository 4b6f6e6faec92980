import { lookup } from 'node:dns/promises';
import { isPrivate } from './outside-http';
import { SourceProblem, sentenceOf } from './problem';

/**
 * Where a host is, asked once: a name can point elsewhere when it is asked again, so what is looked at is what is spoken to.
 * @param allowPrivate whether a private address (RFC 6890) is let through
 * @throws SourceProblem it is found nowhere, or any of its addresses is private
 */
export async function addressOfHost(host: string, allowPrivate: boolean): Promise<string> {
  const found = await lookup(host, { all: true }).catch((problem: unknown) => {
    throw new SourceProblem(sentenceOf(problem, host));
  });
  const first = found[0];
  if (!first) throw new SourceProblem(`${host} has no address.`);
  if (!allowPrivate && found.some((one) => isPrivate(one.address)))
    throw new SourceProblem(
      `${host} is a private address, which this server does not speak to. Whoever runs it can allow that with CORVUN_ALLOW_PRIVATE=1.`,
      'refused',
    );
  return first.address;
}
