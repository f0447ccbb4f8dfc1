import { ActionIcon, Menu } from '@mantine/core'
import { IconDots } from '@tabler/icons-react'
import type { Rule } from './routes'
import { moved } from './split'

interface Props {
  name: string
  rule: Rule
  place: number
  count: number
  isBusy: boolean
  onEdit: () => void
  onRules: (change: (rules: Rule[]) => Rule[]) => void
}

/** What can be done with a rule. */
export function RuleMenu({ name, rule, place, count, isBusy, onEdit, onRules }: Props) {
  const at = (change: (rule: Rule) => Rule) => (rules: Rule[]) =>
    rules.map((r, other) => (other === place ? change(r) : r))
  return (
    <Menu position="bottom-end" withinPortal={false}>
      <Menu.Target>
        <ActionIcon
          variant="subtle"
          color="gray"
          loading={isBusy}
          aria-label={`Actions for rule ${place + 1}, ${name}`}
        >
          <IconDots size={18} />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item onClick={onEdit}>Edit</Menu.Item>
        <Menu.Item disabled={place === 0} onClick={() => onRules((rules) => moved(rules, place, place - 1))}>
          Move up
        </Menu.Item>
        <Menu.Item
          disabled={place === count - 1}
          onClick={() => onRules((rules) => moved(rules, place, place + 1))}
        >
          Move down
        </Menu.Item>
        <Menu.Item onClick={() => onRules(at((r) => ({ ...r, off: !r.off })))}>
          {rule.off ? 'Switch on' : 'Switch off'}
        </Menu.Item>
        <Menu.Item
          color="red"
          onClick={() => onRules((rules) => rules.filter((_, other) => other !== place))}
        >
          Remove
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  )
}
