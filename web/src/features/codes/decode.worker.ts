import jsQR from 'jsqr'

/** Reads the code in a picture, as a phone would; answers with its text, or nothing. */
self.onmessage = (event: MessageEvent<ImageData>) => {
  const { data, width, height } = event.data
  self.postMessage(jsQR(data, width, height, { inversionAttempts: 'dontInvert' })?.data ?? '')
}
