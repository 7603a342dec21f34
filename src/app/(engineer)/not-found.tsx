import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';

export default function NotFound() {
  return (
    <Box component="main" sx={{ maxWidth: 560, mx: 'auto', mt: 12, px: 2 }}>
      <Typography variant="h1" gutterBottom>
        There is nothing at this address
      </Typography>
      <Typography>
        Perhaps it was removed, or the address is not complete.{' '}
        <Link underline="always" href="/">
          All comparisons
        </Link>
      </Typography>
    </Box>
  );
}
