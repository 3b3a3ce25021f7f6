import { many, maybeOne, type Client } from '../db/sql.ts'

export function manyStaff(client: Client): Promise<{ name: string; initials: string }[]> {
  return many<{ name: string; initials: string }>(client, 'select name, initials from staff order by name')
}

export function maybeStaffNamed(client: Client, name: string): Promise<{ id: number } | undefined> {
  return maybeOne<{ id: number }>(client, 'select id from staff where lower(name) = lower($1)', [name])
}
