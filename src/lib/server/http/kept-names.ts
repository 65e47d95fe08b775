import { ApiProblem } from '../problem';

interface Named {
  readonly name: string;
}

/** What a house keeps has one name each, and none of those that ship. Throws `name_taken`. */
export function refuseTakenNames(own: readonly Named[], shipped: readonly Named[]): void {
  const names = new Set(own.map(({ name }) => name));
  const taken = shipped.find(({ name }) => names.has(name));
  if (names.size < own.length)
    throw new ApiProblem(422, 'name_taken', 'Two of them have the same name: give one another.');
  if (taken !== undefined)
    throw new ApiProblem(422, 'name_taken', `“${taken.name}” comes with Vine Tap: give yours another name.`);
}
