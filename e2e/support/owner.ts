import { Person } from './browser';

/** The owner of a shop that was set up through the API, signed in with a browser of their own. */
export async function arriveAsOwner(studio: string, size: { width?: number; height?: number } = {}): Promise<Person> {
  const owner = await Person.arrive(size);
  await owner.open(studio);
  await owner.type('E-mail', 'ines@perigeelane.test');
  await owner.type('Password', 'a long enough one');
  await owner.click(await owner.find('button[type=submit]'));
  await owner.sees('What needs you');
  return owner;
}
