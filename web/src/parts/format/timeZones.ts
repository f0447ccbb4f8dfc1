/** The browser’s own zone; some say nothing where the machine is set to UTC. */
export const ownZone = Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC'

/** Browsers leave UTC, and other names of zones, out of their list, though a machine may well be set to one. */
export const timeZones = [...new Set([...Intl.supportedValuesOf('timeZone'), 'UTC', ownZone])]
