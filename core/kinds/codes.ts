/** The kinds by their codes, in the order they are carried; for who must not load every reader with them. */
export const kindCodes: readonly string[] = ['contacts', 'calls', 'calendar', 'messages', 'photos', 'apps']
