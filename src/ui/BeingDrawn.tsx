import Box from '@mui/material/Box';

/** Room for a picture that is still being drawn; whoever prints the page waits until none is left. */
export function BeingDrawn({ height }: { height: number }) {
  return <Box data-drawing="" sx={{ height }} />;
}
