# Sourced by the project's commands: sets PYTHON to a Python 3.11 or newer that can make environments.
find_python() {
  for candidate in python3 /usr/bin/python3; do
    if "$candidate" -c 'import sys, venv, ensurepip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      PYTHON=$candidate
      return 0
    fi
  done
  return 1
}
if ! find_python; then
  administrator=
  if [ "$(id -u)" != 0 ]; then
    administrator="sudo -n"
    sudo -n true 2>/dev/null || { echo "Missing Debian packages: python3 python3-venv. Ask an administrator for: apt-get install python3 python3-venv" >&2; exit 2; }
  fi
  echo "  … Debian packages: python3 python3-venv"
  $administrator env DEBIAN_FRONTEND=noninteractive apt-get update -q >/dev/null
  $administrator env DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends python3 python3-venv >/dev/null
  find_python || { echo "Python 3.11 or newer is needed and could not be installed." >&2; exit 2; }
fi
