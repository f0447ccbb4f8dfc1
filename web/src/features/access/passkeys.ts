/** Whether this browser can keep passkeys at this address: over HTTPS, or on this very computer. */
export const canUsePasskeys = () =>
  window.isSecureContext &&
  typeof PublicKeyCredential !== 'undefined' &&
  typeof PublicKeyCredential.parseCreationOptionsFromJSON === 'function'

/** Lets the device make a passkey, and returns what the server is sent. */
export async function makePasskey(options: unknown): Promise<unknown> {
  const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(
    options as PublicKeyCredentialCreationOptionsJSON,
  )
  return jsonOf(await orStopped(navigator.credentials.create({ publicKey })))
}

/** Lets the person choose a passkey and open it, and returns what the server is sent. */
export async function openPasskey(options: unknown): Promise<unknown> {
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(
    options as PublicKeyCredentialRequestOptionsJSON,
  )
  return jsonOf(await orStopped(navigator.credentials.get({ publicKey })))
}

const jsonOf = (credential: Credential | null) => (credential as PublicKeyCredential).toJSON() as unknown

/** Browsers say in their own words why there is no passkey, which nobody understands. */
async function orStopped<T>(asked: Promise<T>): Promise<T> {
  try {
    return await asked
  } catch (error) {
    throw new Error(
      error instanceof DOMException && error.name === 'InvalidStateError'
        ? 'This device already has a passkey for your account.'
        : 'No passkey was used. Try again, or choose another way.',
      { cause: error },
    )
  }
}
