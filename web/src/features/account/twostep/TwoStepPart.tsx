import { Alert, Button, Group, Stack, Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read } from '../../../api/client'
import { dayOf } from '../../../parts/format/numbers'
import { Sheet } from '../../../parts/Sheet'
import { Failed, Loading } from '../../../parts/States'
import { canUsePasskeys, makePasskey } from '../../access/passkeys'
import { ProofForm } from '../../access/ProofForm'
import { AuthenticatorSetup } from './AuthenticatorSetup'
import { RecoveryCodes } from './RecoveryCodes'
import { twoStepQuery, useTwoStepChanged, type TwoStep } from './twoStep'

type Doing = 'app' | 'passkey' | 'codes' | { remove: string; name: string } | undefined

/** How the person signs in in two steps, and the ways to do it. */
export function TwoStepPart() {
  const twoStep = useQuery(twoStepQuery)
  const [doing, setDoing] = useState<Doing>()
  const [codes, setCodes] = useState<string[]>()
  const changed = useTwoStepChanged()
  if (twoStep.isError) return <Failed error={twoStep.error} onRetry={() => void twoStep.refetch()} />
  if (!twoStep.data) return <Loading rows={2} />
  const done = async (recoveryCodes?: string[] | null) => {
    setDoing(undefined)
    setCodes(recoveryCodes ?? undefined)
    await changed()
  }
  const stop = () => setDoing(undefined)
  return (
    <Stack gap="sm" align="flex-start">
      <Asked twoStep={twoStep.data} />
      {codes && <RecoveryCodes codes={codes} onDone={() => setCodes(undefined)} />}
      {twoStep.data.isOn && <Ways twoStep={twoStep.data} onRemove={setDoing} />}
      {doing === 'app' && <AuthenticatorSetup onDone={(recovery) => void done(recovery)} onCancel={stop} />}
      {doing === 'passkey' && (
        <ProofForm
          title="Add passkey"
          submit="Continue"
          name={{ label: 'Name of this passkey', placeholder: 'Laptop', maxLength: 50 }}
          run={addPasskey}
          onDone={({ recoveryCodes }) => void done(recoveryCodes)}
          onCancel={stop}
        />
      )}
      {doing === 'codes' && (
        <ProofForm
          title="New recovery codes"
          submit="Replace recovery codes"
          run={({ password }) => read(api.POST('/api/v1/account/recovery-codes', { body: { password } }))}
          onDone={({ recoveryCodes }) => void done(recoveryCodes)}
          onCancel={stop}
        />
      )}
      {typeof doing === 'object' && (
        <ProofForm
          title={`Remove ${doing.name}`}
          submit={`Remove ${doing.name}`}
          run={({ password }) => remove(doing.remove, password)}
          onDone={() => void done()}
          onCancel={stop}
        />
      )}
      {!doing && <Offers twoStep={twoStep.data} onChoose={setDoing} />}
    </Stack>
  )
}

function Asked({ twoStep }: { twoStep: TwoStep }) {
  const by = twoStep.requiredBy.join(', ')
  if (!twoStep.isOn && by)
    return (
      <Alert variant="default" title={`${by} asks for it`} role="status">
        Set up an authenticator app or a passkey to go on working there.
      </Alert>
    )
  return (
    <Text>
      {twoStep.isOn ? 'On' : 'Off'}
      {by && <Text span c="dimmed">{`, as ${by} asks`}</Text>}
    </Text>
  )
}

function Ways({ twoStep, onRemove }: { twoStep: TwoStep; onRemove: (doing: Doing) => void }) {
  const ways = [
    ...twoStep.passkeys.map((p) => ({
      key: p.id,
      name: `passkey “${p.name}”`,
      about: `since ${dayOf(p.createdAt)}`,
    })),
    ...(twoStep.hasAuthenticator ? [{ key: 'app', name: 'authenticator app', about: '' }] : []),
  ]
  return (
    <Sheet columns={['Way', '']}>
      {ways.map((way) => (
        <tr key={way.key}>
          <td>
            {way.name[0]!.toUpperCase() + way.name.slice(1)}
            {way.about && (
              <Text size="sm" c="dimmed">
                {way.about}
              </Text>
            )}
          </td>
          <td style={{ textAlign: 'right' }}>
            <Button
              size="compact-sm"
              variant="subtle"
              aria-label={`Remove ${way.name}`}
              onClick={() => onRemove({ remove: way.key, name: way.name })}
            >
              Remove
            </Button>
          </td>
        </tr>
      ))}
      <tr>
        <td>
          Recovery codes
          <Text size="sm" c="dimmed">
            {twoStep.recoveryCodesLeft === 0 ? 'none left' : `${twoStep.recoveryCodesLeft} left`}
          </Text>
        </td>
        <td style={{ textAlign: 'right' }}>
          <Button size="compact-sm" variant="subtle" onClick={() => onRemove('codes')}>
            Make new ones
          </Button>
        </td>
      </tr>
    </Sheet>
  )
}

function Offers({ twoStep, onChoose }: { twoStep: TwoStep; onChoose: (doing: Doing) => void }) {
  return (
    <Group gap={8}>
      {canUsePasskeys() && (
        <Button variant="default" onClick={() => onChoose('passkey')}>
          Add a passkey
        </Button>
      )}
      {!twoStep.hasAuthenticator && (
        <Button variant="default" onClick={() => onChoose('app')}>
          Set up an authenticator app
        </Button>
      )}
    </Group>
  )
}

async function addPasskey({ password, name }: { password: string; name: string }) {
  const options = await read(api.POST('/api/v1/account/passkeys/begin', { body: { password } }))
  const credential = await makePasskey(options)
  return read(api.POST('/api/v1/account/passkeys', { body: { name, credential } }))
}

const remove = (way: string, password: string) =>
  way === 'app'
    ? read(api.POST('/api/v1/account/authenticator/remove', { body: { password } }))
    : read(
        api.POST('/api/v1/account/passkeys/{id}/remove', {
          params: { path: { id: way } },
          body: { password },
        }),
      )
