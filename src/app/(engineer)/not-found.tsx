import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { DoorSheet } from '@/ui/DoorSheet';

export default function NotFound() {
  return (
    <DoorSheet title="There is nothing at this address">
      <Typography>
        Perhaps it was removed, or the address is not complete.{' '}
        <Link underline="always" href="/">
          All comparisons
        </Link>
      </Typography>
    </DoorSheet>
  );
}
