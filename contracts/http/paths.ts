/** The event stream’s path, for who must not load every contract with it. */
export const eventsPath = '/api/events'
