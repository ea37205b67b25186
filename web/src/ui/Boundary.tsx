/** Catches what goes wrong while a part of the screen is drawn: says so in its place, and the rest goes on. */
import { Component, type ReactNode } from "react";
import css from "./Boundary.module.css";
import { Button } from "./Button";

interface Props {
  /** What it stands around, at the start of a sentence. */
  what: string;
  children: ReactNode;
  /** Its place in the layout. */
  area?: string;
  /** Takes the part away, where it can be left. */
  close?: () => void;
}

interface State {
  error: Error | null;
  copied: boolean;
}

export class Boundary extends Component<Props, State> {
  override state: State = { error: null, copied: false };

  static getDerivedStateFromError(error: unknown): Partial<State> {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  private again = () => {
    // A part of the program that could not be fetched is only asked for anew when the page is.
    if (/dynamically imported|Importing a module/i.test(this.state.error?.message ?? "")) window.location.reload();
    this.setState({ error: null, copied: false });
  };

  private copy = async () => {
    const { error } = this.state;
    const details = [
      `${this.props.what}: ${error?.message}`,
      window.location.pathname,
      navigator.userAgent,
      error?.stack,
    ];
    await navigator.clipboard?.writeText(details.filter(Boolean).join("\n"));
    this.setState({ copied: true });
  };

  override render() {
    const { error, copied } = this.state;
    const { what, children, area, close } = this.props;
    if (!error) return children;
    return (
      <div role="alert" className={css.part} style={{ gridArea: area }}>
        <div className={css.words}>
          <p className={css.title}>{what} cannot be shown.</p>
          <p className={css.message}>{error.message}</p>
          <p className={css.comfort}>
            Nothing you entered is lost: it is kept on this device, and goes on to the server.
          </p>
          <div className={css.acts}>
            <Button variant="action" onClick={this.again}>
              Try again
            </Button>
            <Button onClick={this.copy}>{copied ? "Copied" : "Copy details"}</Button>
            {close && <Button onClick={close}>Leave it</Button>}
          </div>
        </div>
      </div>
    );
  }
}
