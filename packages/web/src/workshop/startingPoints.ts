/** Diagrams to begin with, as signal equations. */
export const startingPoints: readonly { name: string; text: string; from: string; to: string }[] = [
  { name: 'single loop', text: 'e = r - y\nu = C*e\ny = G*u', from: 'r', to: 'y' },
  { name: 'loop with sensor', text: 'e = r - m\nu = C*e\ny = G*u\nm = H*y', from: 'r', to: 'y' },
  { name: 'two nested loops', text: 'e = r - H2*y\nu = C*e - H1*x\nx = G1*u\ny = G2*x', from: 'r', to: 'y' },
  {
    name: 'feed-forward with disturbance',
    text: 'e = r - y\nu = C*e + F*r\ny = G*(u + d)',
    from: 'r',
    to: 'y',
  },
  {
    name: 'motor drive with load torque',
    text: 'i = 1/(R + L*s)*(u - kE*w)\nm = kM*i - mL\nw = 1/(J*s + B)*m',
    from: 'u',
    to: 'w',
  },
  { name: 'state variables', text: 's*x1 = x2\ns*x2 = -a0*x1 - a1*x2 + u\ny = b0*x1 + b1*x2', from: 'u', to: 'y' },
  { name: 'free equations', text: 'x = A*r - B*y\ny = C*x + D*r', from: 'r', to: 'y' },
  {
    name: 'linearised differential equations',
    text: "m*x'' = f - c*x' - k*x\nf = K*(r - x)",
    from: 'r',
    to: 'x',
  },
];
