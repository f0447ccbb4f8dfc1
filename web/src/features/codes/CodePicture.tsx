import { Skeleton } from '@mantine/core'
import classes from './Codes.module.css'
import { asImage } from './drawPicture'

/** The picture of a code on paper; those who don't see it are told its address. */
export function CodePicture({ svg, address }: { svg: string | undefined; address: string }) {
  return (
    <div className={classes.paper}>
      {svg ? <img src={asImage(svg)} alt={`QR code of ${address}`} /> : <Skeleton height={280} width={280} />}
    </div>
  )
}
