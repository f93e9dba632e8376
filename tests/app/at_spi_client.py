"""A screen reader's side of the program: starts it and answers, by at-spi, what is asked on standard input.

One JSON object a line in, one a line out:
  {"do": "tree"}                                 every accessible that shows: depth, role, name, actions, value
  {"do": "act", "role": R, "name": N, "action": A}   the first that shows, in tree order; A may be left out
  {"do": "write", "role": R, "name": N, "text": T}   puts text into a field
  {"do": "keys", "text": T}                      typed where the focus is
  {"do": "key", "code": N, "with": [modifiers]}  one key by its X keysym
  {"do": "end"}
"""

import json
import subprocess
import sys
import time

# The program is started first: what the library sets in its environment would keep it from the bus.
child = subprocess.Popen(
    sys.argv[1:], stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE, text=True, errors="replace"
)

import gi  # noqa: E402

gi.require_version("Atspi", "2.0")
from gi.repository import Atspi  # noqa: E402


def shows(node):
    states = node.get_state_set()
    return states.contains(Atspi.StateType.SHOWING) and states.contains(Atspi.StateType.VISIBLE)


def actions_of(node):
    action = node.get_action_iface()
    return [action.get_action_name(i) for i in range(action.get_n_actions())] if action else []


def nodes(node, depth=0, most_depth=40):
    yield depth, node
    if depth == most_depth:
        return
    for i in range(node.get_child_count()):
        child = node.get_child_at_index(i)
        if child is not None and (shows(child) or child.get_role() in (Atspi.Role.MENU_ITEM, Atspi.Role.MENU)):
            yield from nodes(child, depth + 1, most_depth)


def program(name, seconds=30):
    end = time.time() + seconds
    while time.time() < end:
        desktop = Atspi.get_desktop(0)
        for i in range(desktop.get_child_count()):
            app = desktop.get_child_at_index(i)
            if app is not None and name in (app.get_name() or "").lower() and app.get_child_count() > 0:
                return app
        if child.poll() is not None:
            raise RuntimeError("the program ended with %d: %s" % (child.returncode, child.stderr.read()))
        time.sleep(0.2)
    raise RuntimeError("the program never came to the accessibility bus")


def described(depth, node):
    out = {"depth": depth, "role": node.get_role_name(), "name": node.get_name() or "", "actions": actions_of(node)}
    states = node.get_state_set()
    for state in ("FOCUSED", "FOCUSABLE", "ENABLED", "CHECKED", "SELECTED"):
        if states.contains(getattr(Atspi.StateType, state)):
            out[state.lower()] = True
    return out


def found(app, role, name):
    for _, node in nodes(app):
        if node.get_role_name() == role and (node.get_name() or "") == name:
            return node
    return None


def wait_for(app, role, name, seconds=10):
    end = time.time() + seconds
    while time.time() < end:
        node = found(app, role, name)
        if node is not None:
            return node
        time.sleep(0.1)
    return None


def answer(app, ask):
    what = ask["do"]
    if what == "tree":
        return {"tree": [described(d, n) for d, n in nodes(app)]}
    if what == "act":
        node = wait_for(app, ask["role"], ask["name"])
        if node is None:
            return {"error": "there is no %s '%s'" % (ask["role"], ask["name"])}
        names = actions_of(node)
        wanted = ask.get("action", names[0] if names else "")
        if wanted not in names:
            return {"error": "'%s' has the actions %s" % (ask["name"], names)}
        node.get_action_iface().do_action(names.index(wanted))
        return {"ok": True}
    if what == "write":
        node = wait_for(app, ask["role"], ask["name"])
        field = node.get_editable_text_iface() if node is not None else None
        if field is None:
            return {"error": "there is no field '%s'" % ask["name"]}
        return {"ok": field.set_text_contents(ask["text"])}
    if what == "keys":
        for c in ask["text"]:
            Atspi.generate_keyboard_event(ord(c), None, Atspi.KeySynthType.SYM)
        return {"ok": True}
    if what == "key":
        Atspi.generate_keyboard_event(ask["code"], None, Atspi.KeySynthType.SYM)
        return {"ok": True}
    return {"error": "not known: " + what}


def main():
    try:
        app = program("frelm")
        print(json.dumps({"ok": True, "name": app.get_name()}), flush=True)
        for line in sys.stdin:
            ask = json.loads(line)
            if ask["do"] == "end":
                break
            print(json.dumps(answer(app, ask)), flush=True)
    except RuntimeError as e:
        print(json.dumps({"error": str(e)}), flush=True)
    finally:
        child.terminate()
        child.wait(10)


main()
