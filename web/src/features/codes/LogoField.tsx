import { Button, FileButton, Group, NumberInput, Select, Slider, Switch, Text } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, asFile, read, wordsOf } from '../../api/client'
import { logosQuery, type CodeStyle } from './codes'

interface Props {
  logo: NonNullable<CodeStyle['logo']> | null
  mayUpload: boolean
  onChange: (logo: CodeStyle['logo']) => void
}

/** The logo in the middle: which, how large, and whether modules make room for it. */
export function LogoField({ logo, mayUpload, onChange }: Props) {
  const queries = useQueryClient()
  const logos = useQuery(logosQuery)
  const choose = (id: string) => onChange({ percent: 18, margin: 1, knocksOut: true, ...logo, id })
  const upload = useMutation({
    mutationFn: (file: File) =>
      read(
        api.POST('/api/v1/code-logos', {
          params: { query: { name: file.name.replace(/\.[a-z]+$/i, '') } },
          ...asFile(file),
        }),
      ),
    onSuccess: async (made) => {
      choose(made.id)
      await queries.invalidateQueries({ queryKey: ['code-logos'] })
    },
  })
  return (
    <div>
      <Group gap="sm" align="end">
        <Select
          label="Logo"
          placeholder="None"
          clearable
          data={logos.data?.map((l) => ({ value: l.id, label: l.name })) ?? []}
          value={logo?.id ?? null}
          onChange={(id) => (id ? choose(id) : onChange(null))}
          style={{ flex: 1 }}
        />
        {mayUpload && (
          <FileButton accept="image/png,image/svg+xml" onChange={(file) => file && upload.mutate(file)}>
            {(props) => (
              <Button variant="default" loading={upload.isPending} {...props}>
                Upload PNG or SVG
              </Button>
            )}
          </FileButton>
        )}
      </Group>
      {upload.isError && (
        <Text role="alert" size="sm" c="var(--bad)" mt={4}>
          {wordsOf(upload.error)}
        </Text>
      )}
      {logo && (
        <Group mt={10} gap="lg" align="end">
          <div style={{ flex: 1, minWidth: 200 }}>
            <Text size="sm" id="logo-width">
              Width of the logo: {logo.percent} %
            </Text>
            <Slider
              aria-labelledby="logo-width"
              thumbProps={{ 'aria-labelledby': 'logo-width' }}
              min={8}
              max={35}
              label={null}
              value={logo.percent ?? 18}
              onChange={(percent) => onChange({ ...logo, percent })}
            />
          </div>
          <NumberInput
            label="Margin"
            aria-label="Clear space around the logo, in modules"
            w={80}
            min={0}
            max={4}
            disabled={logo.knocksOut === false}
            value={logo.margin ?? 1}
            onChange={(margin) => typeof margin === 'number' && onChange({ ...logo, margin })}
          />
          <Switch
            label="Hide modules behind it"
            checked={logo.knocksOut ?? true}
            onChange={(event) => onChange({ ...logo, knocksOut: event.currentTarget.checked })}
          />
        </Group>
      )}
    </div>
  )
}
