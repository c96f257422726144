# bash completion for fulmox-cli
_fulmox_cli() {
    local word=${COMP_WORDS[COMP_CWORD]} command=${COMP_WORDS[1]}
    if [ "$COMP_CWORD" = 1 ]; then
        mapfile -t COMPREPLY < <(compgen -W "assess datasheet curve motors candidates catalogue screw parts validate units schema --help --version" -- "$word")
        return
    fi
    case $command in
    assess)
        if [[ $word == -* ]]; then
            mapfile -t COMPREPLY < <(compgen -W "--json --working --help" -- "$word")
            return
        fi ;;
    datasheet)
        if [[ $word == -* ]]; then
            mapfile -t COMPREPLY < <(compgen -W "--json --at-torque --at-current --cold --hot --help" -- "$word")
            return
        fi
        compopt -o filenames 2>/dev/null
        mapfile -t COMPREPLY < <(compgen -f -- "$word")
        return ;;
    curve)
        if [[ $word == -* ]]; then
            mapfile -t COMPREPLY < <(compgen -W "--axis --bus --modulation --reserve --weakening --peak-current --continuous-current --phase-current --overload --torques --loads --prior --cold --hot --ambient --altitude --speeds --points --json --csv --help" -- "$word")
            return
        fi
        compopt -o filenames 2>/dev/null
        mapfile -t COMPREPLY < <(compgen -f -- "$word")
        return ;;
    motors)
        if [[ $word == -* ]]; then
            mapfile -t COMPREPLY < <(compgen -W "--axis --catalogue --json --csv --help" -- "$word")
            return
        fi ;;
    candidates)
        if [[ $word == -* ]]; then
            mapfile -t COMPREPLY < <(compgen -W "--axis --part --place --catalogue --json --csv --help" -- "$word")
            return
        fi ;;
    screw)
        if [[ $word == -* ]]; then
            mapfile -t COMPREPLY < <(compgen -W "--axis --svg --dxf --help" -- "$word")
            return
        fi ;;
    catalogue)
        if [[ $word == -* ]]; then
            mapfile -t COMPREPLY < <(compgen -W "--part --json --help" -- "$word")
            return
        fi
        if [ "$COMP_CWORD" = 2 ]; then
            mapfile -t COMPREPLY < <(compgen -W "check csv" -- "$word")
            return
        fi
        compopt -o filenames 2>/dev/null
        mapfile -t COMPREPLY < <(compgen -f -- "$word")
        return ;;
    parts)
        if [[ $word == -* ]]; then
            mapfile -t COMPREPLY < <(compgen -W "--json --csv --help" -- "$word")
            return
        fi ;;
    validate) ;;
    *) return ;;
    esac
    compopt -o filenames 2>/dev/null
    mapfile -t COMPREPLY < <(compgen -d -- "$word"; compgen -f -X '!*.fulmox' -- "$word")
}
complete -F _fulmox_cli fulmox-cli
