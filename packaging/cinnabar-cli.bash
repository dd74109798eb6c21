# Completion of cinnabar-cli for bash.
_cinnabar_cli() {
  local word=${COMP_WORDS[COMP_CWORD]} commands="demo info schema validate forecast lever set undo redo keep versions compare back meter pins calibrate render takes export import mesh draft method stops wish calc"
  if [ "$COMP_CWORD" -eq 1 ]; then
    mapfile -t COMPREPLY < <(compgen -W "$commands" -- "$word")
    return
  fi
  case "${COMP_WORDS[1]}:${COMP_WORDS[COMP_CWORD - 1]}" in
    *:--to) mapfile -t COMPREPLY < <(compgen -W "json shots-json csv takes-csv" -- "$word") ;;
    calc:calc) mapfile -t COMPREPLY < <(compgen -W "--list $(cinnabar-cli calc --list --json 2>/dev/null | grep -o '"calc": *"[^"]*"' | cut -d'"' -f4)" -- "$word") ;;
    *) case "$word" in
         -*) mapfile -t COMPREPLY < <(compgen -W "--json --shot --level --take --point --normal --at --solo --light --out --size --passes --layer --to --unit --height --scaled --up --name --list --want --pin --help" -- "$word") ;;
         *) mapfile -t COMPREPLY < <(compgen -f -- "$word") ;;
       esac ;;
  esac
}
complete -o filenames -F _cinnabar_cli cinnabar-cli
