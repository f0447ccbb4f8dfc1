import { useEffect, useState } from 'react'
import { drawPicture } from './drawPicture'

const width = 360

/** What a reader in this browser finds in a picture: its text, nothing where it can't be read; undefined while it reads. */
export function useDecoded(svg: string | undefined): string | undefined {
  const [read, setRead] = useState<{ svg: string; text: string }>()
  useEffect(() => {
    if (!svg) return
    let isLate = false
    const worker = new Worker(new URL('./decode.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = (event: MessageEvent<string>) => setRead({ svg, text: event.data })
    // What has no ground is judged on white, as on paper.
    void drawPicture(svg, width, '#ffffff').then((canvas) => {
      if (!isLate)
        worker.postMessage(canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height))
    })
    return () => {
      isLate = true
      worker.terminate()
    }
  }, [svg])
  return read && read.svg === svg ? read.text : undefined
}
