import { DavError } from './dav-error';

/** The last part of an address as it is meant. @throws DavError 400 */
export const decodedName = (name: string) => {
  try {
    return decodeURIComponent(name);
  } catch {
    throw new DavError(400, '', 'This is no address.');
  }
};
