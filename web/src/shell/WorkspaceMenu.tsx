import { Button, Menu } from '@mantine/core'
import { IconCheck, IconChevronDown } from '@tabler/icons-react'
import { Link } from '@tanstack/react-router'
import { enterWorkspace, useSession } from '../features/access/session'
import { tellFailure } from '../parts/tellFailure'
import classes from './Shell.module.css'

/** Which workspace this tab shows, and the way to the others; nothing for people who have one. On phones the account’s menu leads to them. */
export function WorkspaceMenu() {
  const session = useSession()
  const atWork = session?.workspaces.filter((w) => !w.isArchived || w.key === session.workspaceKey) ?? []
  if (!session || atWork.length < 2) return null
  return (
    <Menu position="bottom-start" width={280}>
      <Menu.Target>
        <Button
          variant="default"
          size="compact-md"
          visibleFrom="md"
          maw={250}
          aria-label={`Workspace: ${session.workspace}. Switch`}
          rightSection={<IconChevronDown size={14} aria-hidden />}
        >
          <span className={classes.workspace}>{session.workspace}</span>
        </Button>
      </Menu.Target>
      <Menu.Dropdown mah={420} style={{ overflowY: 'auto' }}>
        {atWork.map(({ key, name }) => (
          <Menu.Item
            key={key}
            rightSection={key === session.workspaceKey ? <IconCheck size={16} aria-label="shown" /> : null}
            onClick={() => {
              if (key !== session.workspaceKey) enterWorkspace(key).catch(tellFailure)
            }}
          >
            {name}
          </Menu.Item>
        ))}
        <Menu.Divider />
        <Menu.Item component={Link} to="/workspaces">
          Compare all, or create one
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  )
}
