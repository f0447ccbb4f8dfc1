import type { Schema } from '../../api/client'

export type Entry = Schema['AuditLogResponse']
export type Action = Entry['action']

/** What was done, as it stands after a person’s name. */
export const actions: Record<Action, string> = {
  'signed-in': 'signed in',
  'password-changed': 'changed the password',
  'email-changed': 'changed the e-mail address',
  'two-step-changed': 'changed two-step sign-in',
  invited: 'invited',
  'invitation-withdrawn': 'withdrew the invitation of',
  joined: 'joined',
  'role-changed': 'changed the role of',
  removed: 'removed',
  left: 'left',
  'token-created': 'created the API token',
  'token-revoked': 'revoked the API token',
  'domain-added': 'added the short domain',
  'domain-changed': 'changed the short domain',
  'destination-changed': 'changed the destination of',
  deleted: 'deleted',
  exported: 'exported',
  imported: 'imported',
  'settings-changed': 'changed',
  'workspace-created': 'created the workspace',
}

/** What it was done to where it has no name of its own, by the API’s word for it. */
const kinds: Record<string, string> = {
  account: 'account',
  archive: 'an archive',
  audit: 'the audit log',
  clicks: 'clicks',
  handoff: 'the handoff page',
  links: 'links',
  'link-check': 'the link check',
  workspace: 'workspace settings',
}

/** One thing of each kind, before its name. */
const things: Record<string, string> = {
  'agreed-values': 'UTM value',
  'ad-networks': 'ad network',
  campaigns: 'campaign',
  channels: 'channel',
  'code-logos': 'logo',
  'code-styles': 'QR code style',
  domains: 'short domain',
  folders: 'folder',
  links: 'link',
  pixels: 'pixel',
  posts: 'post',
  recipes: 'recipe',
  'referrer-rules': 'referring site',
  routes: 'saved route',
  'saved-filters': 'saved filter',
  'tag-merges': 'merged UTM value',
  tags: 'tag',
  views: 'saved view',
  webhooks: 'webhook',
}

/** What an entry is about, in words; its own people’s doings are about nobody else. */
export function thingOf({ action, kind, name }: Entry): string {
  if (action === 'signed-in' || action === 'joined' || action === 'left' || kind === 'account') return ''
  if (!name) return kinds[kind] ?? things[kind] ?? kind
  return action === 'deleted' && things[kind] ? `${things[kind]} “${name}”` : name
}

/** Path of where the thing can be seen, as long as it is there. */
export function placeOf({ action, kind, thing }: Entry): string | undefined {
  if (action === 'deleted') return undefined
  if (kind === 'links') return thing ? `/links/${thing}` : '/links'
  if (kind === 'posts') return thing ? `/posts/${thing}` : undefined
  const section = sectionsOf[kind]
  return section && `/settings/${section}`
}

const sectionsOf: Record<string, string> = {
  archive: 'archive',
  domains: 'domains',
  handoff: 'handoff',
  invitations: 'members',
  'link-check': 'link-check',
  members: 'members',
  webhooks: 'webhooks',
  workspace: 'workspace',
}
