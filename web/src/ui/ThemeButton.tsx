/** Between day and dim: the word says what a tap makes of it. */
import { useTheme } from "../theme/useTheme";
import { Button } from "./Button";

export function ThemeButton() {
  const [dim, toggle] = useTheme();
  return (
    <Button variant="choice" size="sm" onClick={toggle}>
      {dim ? "Day" : "Dim"}
    </Button>
  );
}
