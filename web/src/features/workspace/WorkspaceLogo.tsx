import { Button, FileButton, Group, Text, Title } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, asFile, read, wordsOf } from '../../api/client'
import { useSession } from '../access/session'
import { handoffQuery } from '../retargeting/handoff'
import classes from './Workspace.module.css'

/** The logo that people outside see. */
export function WorkspaceLogo() {
  const isOwner = useSession()?.role === 'owner'
  const queries = useQueryClient()
  const settings = useQuery(handoffQuery)
  const logo = useMutation({
    mutationFn: (file: File | null) =>
      file
        ? read(api.PUT('/api/v1/handoff/logo', asFile(file, file.type)))
        : read(api.DELETE('/api/v1/handoff/logo')),
    onSuccess: (changed) => {
      queries.setQueryData(handoffQuery.queryKey, changed)
      return queries.invalidateQueries({ queryKey: ['handoff-page'] })
    },
  })
  return (
    <section aria-label="Logo">
      <Title order={2} size={18} mt="xl" mb={4}>
        Logo
      </Title>
      <Text size="sm" c="dimmed" mb={8}>
        Visitors see it on the handoff page, readers on shared views. PNG, JPEG or WebP.
      </Text>
      <Group gap="sm">
        {settings.data?.logo && (
          <img className={classes.logo} src={settings.data.logo} alt="The workspace’s logo" />
        )}
        {settings.data && !settings.data.logo && !isOwner && <Text size="sm">No logo yet.</Text>}
        {isOwner && settings.data && (
          <>
            <FileButton
              onChange={(file) => file && logo.mutate(file)}
              accept="image/png,image/jpeg,image/webp"
            >
              {(props) => (
                <Button variant="default" loading={logo.isPending} {...props}>
                  {settings.data.logo ? 'Replace logo' : 'Add a logo'}
                </Button>
              )}
            </FileButton>
            {settings.data.logo && (
              <Button variant="subtle" onClick={() => logo.mutate(null)}>
                Remove logo
              </Button>
            )}
          </>
        )}
      </Group>
      {logo.isError && (
        <Text role="alert" size="sm" mt={6} c="var(--bad)">
          {wordsOf(logo.error)}
        </Text>
      )}
    </section>
  )
}
