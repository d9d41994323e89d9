import type { Person } from '@folvex/contract';

/** For people who gave no name. */
const NAMELESS = 'Someone';

export function nameOfPerson({ name }: Pick<Person, 'name'>): string {
  return name.trim() || NAMELESS;
}

/** `Ada`, `Ada and Ben`, `Ada, Ben and 2 others`; blank for nobody. */
export function peopleInWords(people: readonly Pick<Person, 'name'>[]): string {
  const names = people.map(nameOfPerson);
  if (names.length <= 2) return names.join(' and ');
  const left = names.length - 2;
  return left === 1 ? `${names[0]}, ${names[1]} and ${names[2]}` : `${names[0]}, ${names[1]} and ${left} others`;
}
