import { api, read } from '../../api/client'

/** The address in a pasted text, and whether that is something else than the text. */
export const cleanAddress = (text: string) => read(api.POST('/api/v1/destinations/clean', { body: { text } }))
