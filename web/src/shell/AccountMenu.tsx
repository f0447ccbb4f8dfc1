import { Avatar, Menu, UnstyledButton, useMantineColorScheme } from '@mantine/core'
import {
  IconBuilding,
  IconCheck,
  IconDeviceDesktop,
  IconLogout,
  IconMoon,
  IconSun,
  IconUser,
} from '@tabler/icons-react'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import { api, read } from '../api/client'
import { useSession } from '../features/access/session'

const schemes = [
  { value: 'light', label: 'Light', icon: IconSun },
  { value: 'dark', label: 'Dark', icon: IconMoon },
  { value: 'auto', label: 'Same as system', icon: IconDeviceDesktop },
] as const

export function AccountMenu() {
  const session = useSession()
  const queries = useQueryClient()
  const navigate = useNavigate()
  const { colorScheme, setColorScheme } = useMantineColorScheme()
  const signOut = useMutation({
    mutationFn: () => read(api.DELETE('/api/v1/session')),
    onSuccess: async () => {
      queries.clear()
      await navigate({ to: '/sign-in' })
    },
  })
  if (!session) return null
  return (
    <Menu position="bottom-end" width={240}>
      <Menu.Target>
        <UnstyledButton aria-label={`Account of ${session.name}`} style={{ borderRadius: '50%' }}>
          <Avatar name={session.name} color="tyrian" size={34} />
        </UnstyledButton>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Label>
          {session.name}, {session.role}
          <br />
          {session.workspace}
        </Menu.Label>
        <Menu.Item leftSection={<IconUser size={16} aria-hidden />} component={Link} to="/account">
          Your account
        </Menu.Item>
        <Menu.Item leftSection={<IconBuilding size={16} aria-hidden />} component={Link} to="/workspaces">
          Workspaces
        </Menu.Item>
        <Menu.Divider />
        {schemes.map(({ value, label, icon: Icon }) => (
          <Menu.Item
            key={value}
            leftSection={<Icon size={16} aria-hidden />}
            rightSection={colorScheme === value ? <IconCheck size={16} aria-label="chosen" /> : null}
            fw={colorScheme === value ? 650 : undefined}
            onClick={() => setColorScheme(value)}
          >
            {label}
          </Menu.Item>
        ))}
        <Menu.Divider />
        <Menu.Item leftSection={<IconLogout size={16} aria-hidden />} onClick={() => signOut.mutate()}>
          Sign out
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  )
}
